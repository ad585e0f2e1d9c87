using GateSplit.Core.Splits;

namespace GateSplit.Core.Checks;

/// <summary>How far the numbers of a split are from running in the same order on both sides.</summary>
internal static class Disorder
{
    /// <summary>
    /// Counts pairs that are out of turn and numbers that are left out, in the ports of each source by the order of its elements and in
    /// the inputs of each row by the order of the tracks, and tracks that share an input.
    /// </summary>
    public static int Of(Split split)
    {
        var ports = split.Units.Select(u => u.Elements.Select(e => e.Port).OfType<int>().ToList());
        var inputs = split.Tracks.Where(t => t.Input is not null).GroupBy(t => t.Input!.BankId).Select(g => g.Select(t => t.Input!.Channel).ToList());
        return ports.Sum(p => OutOfTurn(p) + Gaps(p)) + inputs.Sum(i => OutOfTurn(i) + i.Count - i.Distinct().Count());
    }

    private static int OutOfTurn(List<int> numbers) => numbers.Select((number, i) => numbers.Skip(i + 1).Count(later => later < number)).Sum();

    private static int Gaps(List<int> numbers)
    {
        var used = numbers.Distinct().Order().ToList();
        return used.Zip(used.Skip(1)).Count(n => n.Second > n.First + 1);
    }
}

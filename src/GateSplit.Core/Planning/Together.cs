using GateSplit.Core.Charts;

namespace GateSplit.Core.Planning;

/// <summary>Lines that belong into one pass: several microphones of one drum, which make one sound only together.</summary>
internal static class Together
{
    /// <summary>What the lines that belong together have in common; null for an element that stands alone.</summary>
    public static string? Of(ChartElement element) =>
        element.Kind == ElementKind.Microphone && element.Hears.Where(h => !h.Bleed).ToList() is [var only] ? only.VoiceId.Value : null;

    /// <summary>
    /// Chooses lines for a pass that has space for some of them: in order, but those that belong together only if there is
    /// space for all; a pass is never left with space to spare, so this costs no pass.
    /// </summary>
    /// <param name="waiting">The lines, in order.</param>
    /// <param name="space">How many fit.</param>
    /// <param name="setOf">What a line has in common with others; null for nothing.</param>
    /// <param name="chosen">Lines of other widths that are in the pass already.</param>
    public static IReadOnlyList<int> Choose(IReadOnlyList<int> waiting, int space, Func<int, string?> setOf, IReadOnlyCollection<int> chosen)
    {
        var here = chosen.Select(setOf).OfType<string>().ToHashSet();
        var sets = waiting
            .GroupBy(i => setOf(i) ?? $"alone {i}")
            .OrderByDescending(g => here.Contains(g.Key))
            .Select(g => g.ToList());
        var taken = new List<int>();
        var late = new List<int>();
        foreach (var set in sets)
        {
            (set.Count <= space - taken.Count ? taken : late).AddRange(set);
        }

        taken.AddRange(late.Take(space - taken.Count));
        return [.. taken.Order()];
    }
}

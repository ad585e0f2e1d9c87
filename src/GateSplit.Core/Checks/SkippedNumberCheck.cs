using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>One number skipped in a run of lines: from there on everything may be meant one lower.</summary>
public sealed class SkippedNumberCheck : ICheck
{
    private const int ShortestRun = 3;

    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units.Where(u => u.Chart.Elements.All(e => e.Ports.IsEmpty)))
        {
            var used = view.Elements.Where(e => e.Unit.Id == unit.Id).Select(e => e.Set.Port).OfType<int>().ToList();
            var ports = used.Distinct().Order().ToList();
            var alone = used.GroupBy(p => p).Where(g => g.Count() == 1).Select(g => g.Key).ToHashSet();
            for (var i = ShortestRun; i < ports.Count; i++)
            {
                var isRun = Enumerable.Range(i - ShortestRun + 1, ShortestRun - 1).All(k => ports[k] == ports[k - 1] + 1 && alone.Contains(ports[k]));
                var skipped = ports[i - 1] + 1;
                if (isRun && ports[i] == skipped + 1 && i == ports.Count - 1 - RunAfter(ports, i) && !view.AnyTrackHears(unit.Id, skipped))
                {
                    yield return Finding.Note(
                        Place.OfPort(unit.Id, skipped),
                        $"Ports {ports[i - ShortestRun]} to {ports[i - 1]} and {ports[i]} of {unit.Name} are used, but {skipped} was left out: a number was perhaps skipped.");
                }
            }
        }
    }

    private static int RunAfter(List<int> ports, int from)
    {
        var length = 0;
        while (from + length + 1 < ports.Count && ports[from + length + 1] == ports[from + length] + 1)
        {
            length++;
        }

        return length;
    }
}

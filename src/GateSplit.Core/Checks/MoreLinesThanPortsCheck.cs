using GateSplit.Core.Charts;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>More elements sound than there are ports: some must share, or the split needs several passes.</summary>
public sealed class MoreLinesThanPortsCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units)
        {
            var elements = view.SoundingElements.Where(e => e.Unit.Id == unit.Id && e.Chart.Kind != ElementKind.NoteOnly).ToList();
            var choosing = elements.Where(e => e.Chart.Ports.IsEmpty).ToList();
            var open = unit.Chart.Ports.Count(p => unit.Exposes(p.Number) && (!p.IsMain || unit.Chart.AssignedLeavesMain || unit.Chart.Ports.Length == 1));
            var alone = view.ArmedTracks.Select(view.SoundingIn).Where(c => c.Length == 1).Select(c => c[0]).ToHashSet();
            var waiting = choosing.Count(e => !alone.Contains(e.Ref));
            var shortBy = choosing.Count - open;
            if (shortBy > 0 && waiting > 0 && open > 0)
            {
                var passes = (choosing.Count + open - 1) / open;
                yield return Finding.Note(
                    Place.Of(unit),
                    $"{Words.Count(choosing.Count, "element")} of {unit.Name} sound and it has {Words.Count(open, "port")} for them, {shortBy} too few: let some share a port, pan two mono ones hard apart on a pair, or print {passes} passes.");
            }
        }
    }
}

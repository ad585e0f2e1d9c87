using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Two elements on one port cannot be told apart afterwards, unless they are panned hard apart.</summary>
public sealed class MergedCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units)
        {
            foreach (var port in unit.Chart.Ports.Where(p => !IsMixOf(unit, p, view)))
            {
                var feeds = view.SoundingAt(unit.Id, port.Number)
                    .Where(f => view.ElementOf(f.Element).Chart.Kind != ElementKind.Return)
                    .ToList();
                if (HardApart(feeds) || AreOneGroup(view, unit, feeds) || ShareAVoice(view, feeds) || !view.AnyTrackHears(unit.Id, port.Number))
                {
                    continue;
                }

                yield return Tell(view, unit, port, feeds);
            }
        }
    }

    /// <summary>The main port counts as a mix while any element also leaves elsewhere or more than a few share it.</summary>
    private static bool IsMixOf(Unit unit, ChartPort port, SplitView view) =>
        port.IsMain && (!unit.Chart.AssignedLeavesMain || view.SoundingAt(unit.Id, port.Number).Length == view.SoundingElements.Count(e => e.Unit == unit));

    /// <summary>Whether no side carries two of them; one alone is apart, and so is none.</summary>
    private static bool HardApart(List<PortFeed> feeds) =>
        feeds.Count(f => f.Gain.ReachesLeft) <= 1 && feeds.Count(f => f.Gain.ReachesRight) <= 1;

    /// <summary>Elements that follow one group to its port are together because somebody gave the group that port.</summary>
    private static bool AreOneGroup(SplitView view, Unit unit, List<PortFeed> feeds) =>
        feeds.Select(f => unit.GroupsOf(view.SettingsOf(f.Element)).LastOrDefault()?.Name).Distinct().ToList() is [not null];

    /// <summary>Sharers of a voice have no choice, and another check tells of them.</summary>
    private static bool ShareAVoice(SplitView view, List<PortFeed> feeds) =>
        feeds.Select(f => view.ElementOf(f.Element).Chart.SharedVoice).Distinct().ToList() is [not null];

    private static Finding Tell(SplitView view, Unit unit, ChartPort port, List<PortFeed> feeds)
    {
        var names = Words.List([.. feeds.Select(f => view.ElementOf(f.Element).Chart.Name)]);
        var finding = Finding.Warning(
            Place.OfPort(unit.Id, port.Number),
            $"{names} leave {unit.Name} together by port {port.Number}: they will be one file and cannot be mixed apart.")
            .Naming(feeds.Select(f => view.ElementOf(f.Element).Chart.Name));
        var last = feeds[^1].Element;
        var element = view.ElementOf(last).Chart;
        return view.FreePort(unit, element) is { } free
            ? finding.WithFix(
                $"Give {element.Name} port {free.Number} and a track",
                new Several(
                    $"Give {element.Name} a line of its own",
                    view.AnyTrackHears(unit.Id, free.Number)
                        ? [new AssignPort(last, free.Number)]
                        : [new AssignPort(last, free.Number), new AddTrack(view.NewTrackFor(unit, element, free) with { Width = free.Width })]))
            : finding;
    }
}

using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>An effect return on the port of an element is printed on top of it.</summary>
public sealed class ReturnOnElementCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var (element, unit, chart, set) in view.SoundingElements.Where(e => e.Chart.Kind == ElementKind.Return))
        {
            if (unit.PortOf(set) is not { } port || (port.IsMain && set.Port is null && unit.Chart.Master is not null))
            {
                continue;
            }

            var under = view.SoundingAt(unit.Id, port.Number).Where(f => f.Element != element).ToList();
            var allInMix = port.IsMain && under.Count == view.SoundingElements.Count(e => e.Unit == unit) - 1;
            if (under.Count == 0 || allInMix || view.Signal.PortsOf(element).All(f => f.Port != port.Number))
            {
                continue;
            }

            var names = Words.List([.. under.Select(f => view.Split.NameOf(f.Element))]);
            var finding = Finding.Warning(
                Place.Of(element),
                $"{chart.Name} of {unit.Name} lands on port {port.Number}, on top of {names}: the effect will be in that file for good.")
                .Naming(under.Select(f => view.Split.NameOf(f.Element)));
            yield return view.FreePort(unit, chart) is { } free
                ? finding.WithFix($"Move {chart.Name} to port {free.Number}", new Several(
                    $"Move {chart.Name} to port {free.Number}",
                    view.AnyTrackHears(unit.Id, free.Number)
                        ? [new AssignPort(element, free.Number)]
                        : [new AssignPort(element, free.Number), new AddTrack(view.NewTrackFor(unit, chart, free))]))
                : finding.WithFix($"Mute {chart.Name}", new SetMuted(element, true));
        }
    }
}

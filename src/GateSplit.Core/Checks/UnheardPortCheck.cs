using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>What leaves by a port that no track listens to is lost.</summary>
public sealed class UnheardPortCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units)
        {
            foreach (var port in unit.Chart.Ports)
            {
                var lost = view.SoundingAt(unit.Id, port.Number)
                    .Where(f => !port.IsMain || view.Signal.PortsOf(f.Element).Count() == 1)
                    .DistinctBy(f => f.Element)
                    .Where(f => !view.RecordedElsewhere.Contains(f.Element))
                    .Select(f => view.ElementOf(f.Element).Chart)
                    .Where(e => !port.IsMain || e.Kind != Charts.ElementKind.Return)
                    .ToList();
                if (lost.Count == 0 || view.AnyTrackHears(unit.Id, port.Number) || view.AnyTrackWaits(unit, port))
                {
                    continue;
                }

                if (view.Split.InputOf(unit, port.FirstChannel) is null)
                {
                    yield return Unplugged(unit, port, lost);
                    continue;
                }

                var input = view.Split.PlaceOf(unit, port);
                var names = Words.List([.. lost.Select(e => e.Name)]);
                var one = lost.Count == 1;
                var straight = view.SoundingAt(unit.Id, port.Number).All(f => f.Straight);
                var track = view.NewTrackFor(unit, lost[0], port) with
                {
                    Name = view.NewTrack(one ? lost[0].Name + (straight ? " straight" : "") : $"{unit.Name} {port.Name}", port.Width).Name,
                    Width = one ? lost[0].Width : port.Width,
                    MeantFor = port.IsMain && !one ? [Meant.ForMix(unit.Id)] : [.. lost.Select(e => Meant.For(new ElementRef(unit.Id, e.Id)) with { Straight = straight })],
                };
                yield return Finding.Warning(
                        Place.OfPort(unit.Id, port.Number),
                        $"{names} {(one ? "goes" : "go")} out of port {port.Number} of {unit.Name} ({input}), and no track listens there: {(one ? "it" : "they")} will not be recorded.")
                    .Naming(lost.Select(e => e.Name))
                    .WithFix($"Add a track for {(one ? lost[0].Name : "them")} on {input}", new AddTrack(track, view.PlaceFor(track.Input)));
            }
        }
    }

    private static Finding Unplugged(Unit unit, Charts.ChartPort port, List<Charts.ChartElement> lost) => Finding.Warning(
        Place.OfPort(unit.Id, port.Number),
        $"{Words.List([.. lost.Select(e => e.Name)])} {(lost.Count == 1 ? "goes" : "go")} out of port {port.Number} of {unit.Name}, and no cable leads from it to the recorder: plug one in, or connect {unit.Name} by USB.")
        .Naming(lost.Select(e => e.Name));
}

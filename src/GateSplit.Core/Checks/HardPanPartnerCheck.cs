using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Two elements panned hard apart share a pair only if both sides have a mono track.</summary>
public sealed class HardPanPartnerCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units)
        {
            foreach (var port in unit.Chart.Ports.Where(p => p is { Width: Width.Stereo, IsMain: false }))
            {
                var feeds = view.SoundingAt(unit.Id, port.Number);
                var sides = Enumerable.Range(0, 2).Select(side => view.Split.Tracks.Any(t =>
                    t.Width == Width.Mono && t.Input is not null && t.Input == view.Split.InputOf(unit, port.FirstChannel + side, t.Pass))).ToList();
                var hardApart = feeds.Length == 2 && feeds.Count(f => f.Gain.ReachesLeft) == 1 && feeds.Count(f => f.Gain.ReachesRight) == 1;
                if (!hardApart || sides[0] == sides[1] || view.Signal.TrackFeeds.Any(f => f.UnitId == unit.Id && f.Port == port.Number && view.Split.Track(f.TrackId)!.Width == Width.Stereo))
                {
                    continue;
                }

                var missing = feeds.First(f => sides[0] ? f.Gain.ReachesRight : f.Gain.ReachesLeft).Element;
                var name = view.Split.NameOf(missing);
                yield return Finding.Warning(
                        Place.OfPort(unit.Id, port.Number),
                        $"Port {port.Number} of {unit.Name} carries two elements panned hard apart, but only one side has a track: {name} will not be recorded.")
                    .WithFix($"Add a track for {name}", new AddTrack(new Track(view.Split.NewTrackId(), name, Width.Mono)
                    {
                        Input = view.Split.InputOf(unit, port.FirstChannel + (sides[0] ? 1 : 0)),
                        MeantFor = [Meant.For(missing)],
                    }));
            }
        }
    }
}

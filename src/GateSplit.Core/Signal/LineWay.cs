using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>Tells the way of a line in one sentence, with the gain along it.</summary>
public static class LineWay
{
    /// <summary>The way of an element: "Kick leaves Mudlark Nine by port 2 (USB 3) and arrives on track 1, Kick, at +0.0 dB."</summary>
    public static string Of(SplitSignal signal, ElementRef element)
    {
        var split = signal.Split;
        var unit = split.Unit(element.UnitId)!;
        var name = split.NameOf(element);
        var ports = signal.PortsOf(element).Select(f => unit.Chart.Port(f.Port)!).ToList();
        if (ports.Count == 0)
        {
            return $"{name} leaves {unit.Name} nowhere.";
        }

        var leaving = Words.List([.. ports.Select(p => $"port {p.Number} ({split.PlaceOf(unit, p)})")]);

        // In the passes in which it waits for another it is muted on the source.
        var only = unit.Element(element.ElementId).Pass;
        var arriving = signal.Reaching(element).Where(c => !c.Gain.IsZero && (only is null || split.Track(c.TrackId)!.Pass == only)).Select(c => Arrival(split, c)).ToList();
        return arriving.Count == 0
            ? $"{name} leaves {unit.Name} by {leaving}, and no track listens there."
            : $"{name} leaves {unit.Name} by {leaving} and arrives on {Words.List(arriving)}.";
    }

    /// <summary>True if somebody has ticked the line of an element, and it still goes the way it went then.</summary>
    public static bool IsTicked(SplitSignal signal, ElementRef element) =>
        signal.Split.Ticked.FirstOrDefault(t => t.Element == element) is { } ticked && ticked.Way == Of(signal, element);

    private static string Arrival(Split split, Contribution arrives)
    {
        var track = split.Track(arrives.TrackId)!;
        var gain = arrives.Gain;
        var left = Decibels.FromRatio(Math.Abs(gain.LL) + Math.Abs(gain.LR));
        var right = Decibels.FromRatio(Math.Abs(gain.RL) + Math.Abs(gain.RR));
        var level = track.Width == Width.Mono || Math.Abs(left.Value - right.Value) < 0.05 ? $"at {left}" : $"at {left} left, {right} right";
        return $"track {split.Tracks.IndexOf(track) + 1}, {track.Title}, {(split.Passes > 1 ? $"in pass {track.Pass} " : "")}{level}";
    }
}

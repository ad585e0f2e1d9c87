using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>
/// What a line is expected to peak at, played as hard as can be and ridden as it will be. What several voices give rarely adds up in full;
/// but several microphones at one drum, or two parts of one key, sound together.
/// </summary>
/// <param name="Peak">Of the louder side.</param>
/// <param name="Of">The elements that give it together.</param>
public sealed record ExpectedPeak(Decibels Peak, ImmutableArray<ElementRef> Of)
{
    /// <summary>The peak of an element on a track; null if its chart does not tell, or it does not arrive there.</summary>
    public static Decibels? On(SplitView view, ElementRef element, TrackId trackId) => Loudest(view, [element], trackId)?.Peak;

    /// <summary>The peak of all that sounds on a track; null if no chart tells.</summary>
    public static ExpectedPeak? On(SplitView view, Track track) => Loudest(view, view.SoundingIn(track), track.Id);

    private static ExpectedPeak? Loudest(SplitView view, ImmutableArray<ElementRef> elements, TrackId trackId)
    {
        var voices = (
            from element in elements
            let found = view.ElementOf(element)
            let gain = view.Signal.Reaching(element).FirstOrDefault(c => c.TrackId == trackId)?.Gain ?? Gain2x2.Zero
            where !gain.IsZero
            let ridden = Ridden(view, element)
            from heard in found.Chart.Hears
            where !heard.Bleed
            let voice = found.Unit.Chart.Voices.First(v => v.Id == heard.VoiceId)
            let peak = ridden * voice.Peak * (heard.GainDb + found.Unit.Voice(heard.VoiceId).LevelDb).Ratio
            select (Voice: (element.UnitId, heard.VoiceId), element, Left: peak * Math.Max(Math.Abs(gain.LL), Math.Abs(gain.LR)), Right: peak * Math.Max(Math.Abs(gain.RL), Math.Abs(gain.RR))))
            .GroupBy(v => v.Voice)
            .Select(g => (Peak: Math.Max(g.Sum(v => v.Left), g.Sum(v => v.Right)), Of: g.Select(v => v.element).Distinct().ToImmutableArray()))
            .ToList();
        return voices.Count == 0 ? null : voices.MaxBy(v => v.Peak) is var loudest ? new ExpectedPeak(Decibels.FromRatio(loudest.Peak), loudest.Of) : null;
    }

    /// <summary>The highest place of an element's level ride, as a ratio; 1 where none is printed.</summary>
    private static double Ridden(SplitView view, ElementRef element)
    {
        var ride = view.Split.Rides.FirstOrDefault(r => r.Element == element && r.Control == RideControl.Level);
        var unit = view.ElementOf(element).Unit;
        var printed = view.Signal.PortsOf(element).Any(f => unit.Chart.Port(f.Port)!.Tap != Tap.BeforeFader);
        return ride is null || !printed ? 1 : new Decibels(ride.Points.Max(p => p.Value)).Ratio;
    }
}

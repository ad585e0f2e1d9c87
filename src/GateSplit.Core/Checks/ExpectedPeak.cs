using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>What a line is expected to peak at, played as hard as can be; what several voices give rarely adds up in full.</summary>
public static class ExpectedPeak
{
    /// <summary>The peak of an element on a track; null if its chart does not tell, or it does not arrive there.</summary>
    public static Decibels? On(SplitView view, ElementRef element, TrackId trackId)
    {
        var (_, unit, chart, _) = view.ElementOf(element);
        var gain = view.Signal.Reaching(element).FirstOrDefault(c => c.TrackId == trackId)?.Gain;
        return chart.Hears.IsEmpty || gain is null or { IsZero: true } ? null : Before(unit, chart) + Decibels.FromRatio(gain.Value.Largest);
    }

    private static Decibels Before(Unit unit, ChartElement element) => Decibels.FromRatio(element.Hears
        .Where(h => !h.Bleed)
        .Select(h => unit.Chart.Voices.First(v => v.Id == h.VoiceId).Peak * (h.GainDb + unit.Voice(h.VoiceId).LevelDb).Ratio)
        .DefaultIfEmpty().Max());
}

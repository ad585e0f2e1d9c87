using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Where a port listens after the fader, the fader is printed. Unity gives the strongest clean signal.</summary>
public sealed class FaderCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var (element, unit, chart, set) in view.SoundingElements)
        {
            if (Math.Abs(set.FaderDb.Value) < 0.05
                || set.Port is not { } number
                || unit.Chart.Port(number) is not { Tap: not Tap.BeforeFader } port
                || !view.AnyTrackHears(unit.Id, number)
                || view.Signal.PortsOf(element).All(f => f.Port != number))
            {
                continue;
            }

            var off = new Decibels(Math.Abs(set.FaderDb.Value)).ToString().TrimStart('+');
            var fix = new SetFader(element, Decibels.Unity);
            yield return set.FaderDb > Decibels.Unity
                ? Finding.Warning(
                        Place.Of(element),
                        $"{chart.Name}'s fader stands {off} above unity and port {port.Number} listens after it: it prints {off} hotter and may clip.")
                    .WithFix($"Set {chart.Name}'s fader to unity", fix)
                : Finding.Note(
                        Place.Of(element),
                        $"{chart.Name}'s fader stands {off} below unity and port {port.Number} listens after it: it prints {off} lower than it could.")
                    .WithFix($"Set {chart.Name}'s fader to unity", fix);
        }
    }
}

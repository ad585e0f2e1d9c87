using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>Sets many source faders at once, where a fader is printed at all.</summary>
public static class LevelPlan
{
    /// <summary>All faders to unity, which gives the strongest clean signal; null if they are there already.</summary>
    public static Edit? ToUnity(SplitView view) => Together("Set the source faders to unity", [
        .. view.SoundingElements.Where(e => e.Set.FaderDb != Decibels.Unity && Printed(view, e.Ref)).Select(e => new SetFader(e.Ref, Decibels.Unity)),
    ]);

    /// <summary>The faders of what peaks above the target, down by so much that it peaks there; null if nothing does.</summary>
    /// <param name="view">The split.</param>
    /// <param name="peaks">What elements peak at on their tracks, as measured.</param>
    public static Edit? Trim(SplitView view, IEnumerable<(ElementRef Element, Decibels Peak)> peaks) => Together("Turn down what is too hot", [
        .. from line in peaks.GroupBy(p => p.Element)
           let over = line.Max(p => p.Peak.Value) - view.Split.Pass.TargetPeakDb.Value
           where over > 0.05 && Printed(view, line.Key)
           select new SetFader(line.Key, new Decibels(Math.Max(ChartRules.Levels.Low.Value, Math.Round(view.SettingsOf(line.Key).FaderDb.Value - over, 1)))),
    ]);

    /// <summary>True if a port of the element listens after its fader.</summary>
    private static bool Printed(SplitView view, ElementRef element) =>
        view.Signal.PortsOf(element).Any(p => view.ElementOf(element).Unit.Chart.Port(p.Port)!.Tap != Tap.BeforeFader);

    private static Several? Together(string name, ImmutableArray<Edit> edits) => edits.IsEmpty ? null : new Several(name, edits);
}

using System.Collections.Immutable;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>All rules together.</summary>
public static class AllChecks
{
    /// <summary>Every rule there is.</summary>
    public static ImmutableArray<ICheck> Rules { get; } =
    [
        new LoopCheck(),
        new ModeCheck(),
        new RestartCheck(),
        new SilentLineCheck(),
        new UnheardPortCheck(),
        new EmptyTrackCheck(),
        new DoubledCheck(),
        new OffByOneCheck(),
        new SkippedNumberCheck(),
        new GroupAndElementCheck(),
        new SharedVoiceCheck(),
        new NoteOnlyCheck(),
        new HardPanPartnerCheck(),
        new MasterEffectCheck(),
        new MergedCheck(),
        new ReturnOnElementCheck(),
        new WidthCheck(),
        new FaderCheck(),
        new NotArmedCheck(),
        new NotMonitoredCheck(),
        new TrackNameCheck(),
        new FileNameCheck(),
        new CrossingsCheck(),
        new MoreLinesThanPortsCheck(),
        new InputTakenTwiceCheck(),
        new ClockCheck(),
        new CountInCheck(),
        new TailCheck(),
        new UnnamedUnitsCheck(),
        new InputOffCheck(),
        new InputWidthCheck(),
        new LoopbackCheck(),
        new HeardDirectlyCheck(),
        new MusicalPanCheck(),
        new LevelCheck(),
        new SettleCheck(),
        new OldCopyCheck(),
        new SettingsCheck(),
        new SpeedCheck(),
        new DiskSpaceCheck(),
    ];

    /// <summary>What all rules find, the weightiest first; what was accepted as meant comes last.</summary>
    public static ImmutableArray<Finding> Look(SplitView view) =>
    [
        .. InEveryPass(view)
            .Select(f => WithReason(view, f))
            .OrderBy(f => f.Accepted is not null)
            .ThenByDescending(f => f.Severity),
    ];

    /// <summary>Each pass is looked at as it will be recorded; what holds in several is told once.</summary>
    private static IEnumerable<Finding> InEveryPass(SplitView view)
    {
        var settled = Settled(view);
        return Named(new RestartCheck(), view).Concat(Enumerable.Range(1, settled.Split.Passes)
            .Select(pass => settled.Split.Passes == 1 ? settled : settled.InPass(pass))
            .SelectMany(seen => Rules.Where(r => r is not RestartCheck).SelectMany(rule => Named(rule, seen)))
            .DistinctBy(f => (f.Key, f.Sentence)));
    }

    /// <summary>
    /// A restart that is still to come is one finding. All else is looked at as it will be after it: a dozen findings
    /// that the same restart mends would only hide the rest.
    /// </summary>
    private static SplitView Settled(SplitView view) => view.Split.Units.All(u => !u.NeedsRestart)
        ? view
        : new SplitView(
            view.Split with { Units = [.. view.Split.Units.Select(u => u with { ModeInForceId = null, UnloadedPorts = [] })] }, view.Sounding, view.Space);

    private static IEnumerable<Finding> Named(ICheck rule, SplitView view) => rule.Look(view).Select(f => f with { Check = NameOf(rule) });

    /// <summary>A finding stays accepted only while it says the same; one that stops every pass cannot be meant.</summary>
    private static Finding WithReason(SplitView view, Finding finding) => finding.Severity == Severity.Stop ? finding : finding with
    {
        Accepted = view.Split.Accepted.FirstOrDefault(a => a.Key == finding.Key && a.Sentence == finding.Sentence)?.Why,
    };

    private static string NameOf(ICheck rule) => rule.GetType().Name[..^"Check".Length];
}

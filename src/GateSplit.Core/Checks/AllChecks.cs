using System.Collections.Immutable;

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
    private static IEnumerable<Finding> InEveryPass(SplitView view) =>
        Enumerable.Range(1, view.Split.Passes)
            .Select(pass => view.Split.Passes == 1 ? view : view.InPass(pass))
            .SelectMany(seen => Rules.SelectMany(rule => rule.Look(seen).Select(f => f with { Check = NameOf(rule) })))
            .DistinctBy(f => (f.Key, f.Sentence));

    /// <summary>A finding stays accepted only while it says the same; one that stops every pass cannot be meant.</summary>
    private static Finding WithReason(SplitView view, Finding finding) => finding.Severity == Severity.Stop ? finding : finding with
    {
        Accepted = view.Split.Accepted.FirstOrDefault(a => a.Key == finding.Key && a.Sentence == finding.Sentence)?.Why,
    };

    private static string NameOf(ICheck rule) => rule.GetType().Name[..^"Check".Length];
}

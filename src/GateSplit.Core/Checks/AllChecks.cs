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
        new UnplayedCheck(),
        new MeantElsewhereCheck(),
        new SilentLineCheck(),
        new UnheardPortCheck(),
        new GoneSourceCheck(),
        new UnfedBusCheck(),
        new EmptyTrackCheck(),
        new DoubledCheck(),
        new SkippedNumberCheck(),
        new GroupAndElementCheck(),
        new SharedVoiceCheck(),
        new NoteOnlyCheck(),
        new LostSideCheck(),
        new SilentSideCheck(),
        new MixOnlyCheck(),
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

    /// <summary>
    /// What all rules find: causes first, the weightiest before the others, each with what follows from it; what was accepted as meant comes
    /// last.
    /// </summary>
    public static ImmutableArray<Finding> Look(SplitView view) => Causes.Sort(view, [.. InEveryPass(view).Select(f => WithReason(view, f))]);

    /// <summary>Each pass is looked at as it will be recorded; what holds in several is told once.</summary>
    internal static IEnumerable<Finding> InEveryPass(SplitView view)
    {
        // A restart that is still to come is one finding. All else is looked at as it will be after it: a dozen findings that the same restart
        // mends would only hide the rest.
        var settled = view.Settled;

        // A pass of which no track is armed is looked at, too: that it will not be recorded is what has to be told.
        var passes = settled.Split.Tracks.Select(t => t.Pass).DefaultIfEmpty(1).Max();
        return Named(new RestartCheck(), view)
            .Concat(Rules.Where(r => r is IOfTheWholeSplit).SelectMany(rule => Named(rule, settled)))
            .Concat(Enumerable.Range(1, passes)
                .Select(pass => passes == 1 ? settled : settled.InPass(pass))
                .SelectMany(seen => Rules.Where(r => r is not (RestartCheck or IOfTheWholeSplit)).SelectMany(rule => Named(rule, seen)))
                .DistinctBy(f => (f.Key, f.Sentence)));
    }

    private static IEnumerable<Finding> Named(ICheck rule, SplitView view) => rule.Look(view).Select(f => f with { Check = NameOf(rule) });

    /// <summary>A finding stays accepted only while it says the same; one that stops every pass cannot be meant.</summary>
    private static Finding WithReason(SplitView view, Finding finding) => finding.Severity == Severity.Stop ? finding : finding with
    {
        Accepted = view.Split.Accepted.FirstOrDefault(a => a.Key == finding.Key && a.Sentence == finding.Sentence)?.Why,
    };

    private static string NameOf(ICheck rule) => rule.GetType().Name[..^"Check".Length];
}

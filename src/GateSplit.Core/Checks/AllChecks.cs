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
        new SilentLineCheck(),
        new UnheardPortCheck(),
        new EmptyTrackCheck(),
        new DoubledCheck(),
        new MergedCheck(),
        new ReturnOnElementCheck(),
        new WidthCheck(),
        new FaderCheck(),
        new NotArmedCheck(),
        new NotMonitoredCheck(),
        new TrackNameCheck(),
    ];

    /// <summary>What all rules find, the weightiest first.</summary>
    public static ImmutableArray<Finding> Look(SplitView view) =>
    [
        .. Rules
            .SelectMany(rule => rule.Look(view).Select(f => f with { Check = NameOf(rule) }))
            .OrderByDescending(f => f.Severity),
    ];

    private static string NameOf(ICheck rule) => rule.GetType().Name[..^"Check".Length];
}

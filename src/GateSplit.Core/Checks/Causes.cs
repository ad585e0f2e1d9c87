using System.Collections.Immutable;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>
/// Takes consequences under their cause. Whether one finding follows from another is not guessed: the fix of the cause is tried, and what is
/// not found any more after it has followed from it.
/// </summary>
internal static class Causes
{
    /// <summary>The checks whose findings may explain others, the deepest first. A fix that only hides something, as disarming a track does, explains nothing.</summary>
    private static readonly ImmutableArray<string> Deepest = ["Loop", "OldCopy", "Mode", "Unplayed", "InputOff", "GoneSource", "MeantElsewhere", "UnfedBus", "SilentLine"];

    /// <summary>The most causes that are tried: each costs as much as looking at the whole split.</summary>
    private const int MostTried = 12;

    /// <summary>Names the findings, puts consequences under their causes, and orders them.</summary>
    public static ImmutableArray<Finding> Sort(SplitView view, ImmutableArray<Finding> findings)
    {
        var named = Named(findings);
        var under = new Dictionary<string, string>();
        var causes = named.Where(f => f is { Fix: not null, Accepted: null } && Deepest.Contains(f.Check)).OrderBy(f => Deepest.IndexOf(f.Check)).Take(MostTried).ToList();
        foreach (var cause in causes.Where(_ => named.Length > 1))
        {
            if (under.ContainsKey(cause.Id) || cause.Fix!.Apply(view.Split) is not { Ok: true, Value: var mended })
            {
                continue;
            }

            var left = AllChecks.InEveryPass(view.On(mended)).Select(f => f.Key).ToHashSet();
            foreach (var gone in named.Where(f => f.Id != cause.Id && f.Accepted is null && f.Severity != Severity.Stop && !left.Contains(f.Key) && !under.ContainsKey(f.Id) && !under.ContainsValue(f.Id)))
            {
                under[gone.Id] = cause.Id;
            }
        }

        var explained = named.Select(f => f with { Under = under.GetValueOrDefault(f.Id) }).ToLookup(f => f.Under);
        return
        [
            .. explained[null]
                .Select(f => f with { Severity = explained[f.Id].Select(c => c.Severity).Append(f.Severity).Max() })
                .OrderBy(f => f.Accepted is not null)
                .ThenByDescending(f => f.Severity)
                .SelectMany(f => explained[f.Id].OrderByDescending(c => c.Severity).Prepend(f)),
        ];
    }

    /// <summary>A key may be found twice, as by two passes; then the second bears a number.</summary>
    private static ImmutableArray<Finding> Named(ImmutableArray<Finding> findings)
    {
        var seen = new Dictionary<string, int>();
        return [.. findings.Select(f => f with { Id = (seen[f.Key] = seen.GetValueOrDefault(f.Key) + 1) is > 1 and var n ? $"{f.Key}#{n}" : f.Key })];
    }
}

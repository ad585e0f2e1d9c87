using System.Collections.Immutable;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>
/// Lays lines: gives every element that sounds a port, an input and a track, in the fewest passes, counting upward so
/// that the numbers on both sides run in the same order. Nothing is changed until the proposal is accepted, and no line
/// is ever dropped without a word: what does not fit waits for another pass, or is told.
/// </summary>
public static class Layer
{
    /// <summary>Works a proposal out.</summary>
    /// <param name="view">The split.</param>
    /// <param name="wish">How.</param>
    public static Proposal Propose(SplitView view, LayWish wish)
    {
        var split = view.Split;
        var reasons = new List<string>();
        var sources = split.Units.Select(u => SourceToLay.Of(view, u, wish, reasons)).Where(s => s.Waiting.Count > 0).ToImmutableArray();
        var cabled = sources.Where(s => s.Cabled).Select(s => s.Unit.Id).ToHashSet();
        var sockets = cabled.Count == 0 ? null : Sockets.Of(split, wish.Anew && wish.Only is null ? cabled : new HashSet<UnitId>());
        var (plan, chosen) = LayPlan.Best(sources, sockets, wish);
        reasons.AddRange(LayReasons.Of(chosen, plan, sockets, sockets is null ? plan.Passes : LayPlan.Best(sources, null, wish).Plan.Passes));

        var lines = plan.Lines
            .Select(l => split.BankOf(split.Unit(l.UnitId)!) is { Connected: true } bank ? l with { Input = new InputRef(bank.Id, l.Port.FirstChannel + l.Side) } : l)
            .ToImmutableArray();

        // The rules look once at what all edits make of the split; only if that does not fit, at each of them.
        var wanted = LayEdits.Of(view, lines, chosen, wish).ToList();
        var (edits, after) = Made(split, wanted, (edit, before) => edit.Change(before));
        if (SplitRules.FirstMisfit(after, split) is not null)
        {
            (edits, after) = Made(split, wanted, (edit, before) => edit.Apply(before));
        }

        reasons.AddRange(LayReasons.OfChanges(split, after));
        return new Proposal(lines, [.. reasons], SplitJson.Same(Bare(after), Bare(split)) ? null : new Several("Lay the lines", edits), after) { Limits = LayReasons.Limits(chosen, plan, sockets) };
    }

    /// <summary>A split without what laying never changes and what is by far its longest part: what its charts say of their elements and voices.</summary>
    private static Split Bare(Split split) => split with { Units = [.. split.Units.Select(u => u with { Chart = u.Chart with { Elements = [], Voices = [] } })] };

    /// <summary>The edits that can be made, one after the other, and what they make of a split.</summary>
    private static (ImmutableArray<Edit> Edits, Split After) Made(Split split, List<Edit> wanted, Func<Edit, Split, Result<Split>> make)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        foreach (var edit in wanted)
        {
            var result = make(edit, split);
            if (result.Ok)
            {
                split = result.Value;
                edits.Add(edit);
            }
        }

        return (edits.ToImmutable(), split);
    }
}

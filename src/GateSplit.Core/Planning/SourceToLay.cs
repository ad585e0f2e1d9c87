using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>One source with the lines that are to be laid, and the ports there are for them.</summary>
/// <param name="Unit">The source.</param>
/// <param name="Mode">The mode it will be in.</param>
/// <param name="Waiting">The lines.</param>
/// <param name="Ports">The ports that are free, in order.</param>
internal sealed record SourceToLay(Unit Unit, ChartMode Mode, IReadOnlyList<LineDraft> Waiting, ImmutableArray<ChartPort> Ports)
{
    /// <summary>True if it comes in over cables.</summary>
    public bool Cabled { get; private init; }

    /// <summary>True if its main port can be used like any other: everything leaves it, and no effect is on it.</summary>
    public bool MainIsFree { get; private init; }

    /// <summary>True if its main port is used.</summary>
    public bool UsesMain { get; init; }

    /// <summary>Ports that are declared for these lines.</summary>
    public ImmutableArray<ChartPort> Declared { get; init; } = [];

    /// <summary>The ports on which lines are seated.</summary>
    public IReadOnlyList<ChartPort> Gate => [.. UsesMain ? Ports.Insert(0, Unit.Chart.MainPort) : Ports, .. Declared];

    /// <summary>Looks at a source.</summary>
    public static SourceToLay Of(SplitView view, Unit unit, LayWish wish, ICollection<string> reasons)
    {
        var mode = Widest(unit);
        var drafts = LineDraft.Of(view, unit, wish, reasons);
        bool Wanted(LineDraft draft) => wish.Only is null || draft.Elements.Any(wish.Only.Contains);
        var settled = view.Settled;
        var kept = drafts.Where(d => !Wanted(d) || (!wish.Anew && HasLine(settled, d))).ToList();
        var waiting = drafts.Except(kept).ToList();
        var main = unit.Chart.MainPort;
        var taken = kept.SelectMany(k => k.Elements).Select(e => unit.AssignedPort(unit.Element(e.ElementId))).OfType<int>().Concat(unit.StraightPorts).ToHashSet();
        var ports = unit.Chart.Ports.Where(p => !p.IsMain && !taken.Contains(p.Number) && (unit.Chart.DeclaresPorts || mode.Ports.Contains(p.Number))).ToImmutableArray();
        if (unit.Chart.Ports is [var single])
        {
            ports = [single];
        }

        var moving = waiting.SelectMany(d => d.Elements).ToHashSet();
        return new SourceToLay(unit, mode, [.. waiting.Select(d => Freed(unit, d, taken))], ports)
        {
            Cabled = !view.Split.BankOf(unit).Connected,
            MainIsFree = unit.Chart.Ports.Length > 1 && unit.Chart.AssignedLeavesMain && unit.Chart.Master is null
                && ((wish.Anew && wish.Only is null) || !view.AnyTrackHears(unit.Id, main.Number))
                && view.SoundingAt(unit.Id, main.Number).All(f => moving.Contains(f.Element)),
        };
    }

    /// <summary>A line whose port, chosen by hand, another line holds in a pass of its own goes anywhere.</summary>
    private static LineDraft Freed(Unit unit, LineDraft draft, HashSet<int> taken) =>
        draft.Ports.Length > 0 && draft.Ports.All(taken.Contains) ? draft with { Ports = draft.Group is null ? unit.Chart.Element(draft.Elements[0].ElementId)!.Ports : [] } : draft;

    /// <summary>The mode with the most ports; the one it is in if no other has more.</summary>
    private static ChartMode Widest(Unit unit) =>
        unit.Chart.Modes.MaxBy(m => m.Ports.Length) is { } widest && widest.Ports.Length > unit.Mode.Ports.Length ? widest : unit.Mode;

    /// <summary>True if an armed track carries what the draft would carry, and nothing else.</summary>
    private static bool HasLine(SplitView view, LineDraft draft) => view.ArmedTracks.Any(t =>
        view.SoundingIn(t) is { IsEmpty: false } carried
        && draft.Elements.All(carried.Contains)
        && carried.All(e => draft.Elements.Contains(e)));
}

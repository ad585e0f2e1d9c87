using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>
/// Lays lines: gives every element that sounds a port, an input and a track, in the fewest passes, counting upward so
/// that the numbers on both sides run in the same order. Nothing is changed until the proposal is accepted, and no line
/// is ever dropped: what does not fit waits for another pass.
/// </summary>
public static class Layer
{
    /// <summary>Works a proposal out.</summary>
    /// <param name="view">The split.</param>
    /// <param name="wish">How.</param>
    public static Proposal Propose(SplitView view, LayWish wish)
    {
        var split = view.Split;
        var lines = ImmutableArray.CreateBuilder<LaidLine>();
        var reasons = ImmutableArray.CreateBuilder<string>();
        foreach (var unit in split.Units)
        {
            lines.AddRange(ForUnit(view, unit, wish, reasons).Select(l => l with
            {
                Input = split.BankOf(unit) is { Connected: true } bank ? new InputRef(bank.Id, l.Port.FirstChannel + l.Side) : null,
            }));
        }

        PlugIn(split, wish, lines, reasons);

        // The rules look once at what all edits make of the split; only if that does not fit, at each of them.
        var wanted = LayEdits.Of(view, lines.ToImmutable(), wish).ToList();
        var (edits, after) = Made(split, wanted, (edit, before) => edit.Change(before));
        if (SplitRules.FirstMisfit(after, split) is not null)
        {
            (edits, after) = Made(split, wanted, (edit, before) => edit.Apply(before));
        }

        return new Proposal(lines.ToImmutable(), reasons.ToImmutable(), SplitJson.Same(Bare(after), Bare(split)) ? null : new Several("Lay the lines", edits), after);
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

    /// <summary>Lines of sources that come in over cables get sockets, and passes if there are too few.</summary>
    private static void PlugIn(Split split, LayWish wish, ImmutableArray<LaidLine>.Builder lines, ImmutableArray<string>.Builder reasons)
    {
        var cabled = Enumerable.Range(0, lines.Count).Where(i => !split.BankOf(split.Unit(lines[i].UnitId)!).Connected).ToList();
        if (cabled.Count == 0)
        {
            return;
        }

        var laid = wish.Anew && wish.Only is null ? cabled.Select(i => lines[i].UnitId).ToHashSet() : new HashSet<UnitId>();
        var sockets = InputPlan.Sockets.Of(split, laid);
        var seated = InputPlan.Of([.. cabled.Select(i => lines[i])], sockets);
        var before = cabled.Max(i => lines[i].Pass);
        for (var i = 0; i < cabled.Count; i++)
        {
            lines[cabled[i]] = seated[i];
        }

        var names = Words.List([.. seated.Select(l => split.Unit(l.UnitId)!.Name).Distinct()]);
        var channels = Words.Count(seated.Sum(l => (int)l.Width), "channel");
        if (seated.Any(l => l.Input is null))
        {
            reasons.Add($"{names} come in over cables, and there are not enough sockets for {channels}: add some at Recorder, or connect by USB.");
        }
        else if (seated.Max(l => l.Pass) is var passes && passes > before)
        {
            reasons.Add($"{channels} of {names} on {Words.Count(sockets.Free.Length, "socket")} take {passes} passes: the cables are moved between them.");
        }
    }

    private static IEnumerable<LaidLine> ForUnit(SplitView view, Unit unit, LayWish wish, ImmutableArray<string>.Builder reasons)
    {
        var mode = Widest(unit);
        var drafts = Drafts(view, unit, wish, reasons);
        bool Wanted(Draft draft) => wish.Only is null || draft.Elements.Any(wish.Only.Contains);
        var kept = drafts.Where(d => !Wanted(d) || (!wish.Anew && HasLine(view, d))).ToList();
        var waiting = drafts.Except(kept).ToList();
        if (waiting.Count == 0)
        {
            yield break;
        }

        if (mode.Id != unit.ModeId)
        {
            reasons.Add($"{unit.Name} is set to {mode.Name}, since {unit.Mode.Name} has only {Words.Count(unit.Mode.Ports.Length, "port")}.");
        }

        var taken = kept.SelectMany(k => k.Elements).Select(e => unit.AssignedPort(unit.Element(e.ElementId))).OfType<int>().ToHashSet();
        var ports = Ports(unit, mode, kept.Count == 0 && (wish.Anew || !view.AnyTrackHears(unit.Id, unit.Chart.MainPort.Number)), waiting.Count, reasons);
        var needs = waiting.Select(d => new PortPlan.Need(d.Width, d.Only, d.Side, d.Set)).ToList();
        var seats = PortPlan.Of(needs, ports, taken, wish.HardPan);
        var passes = seats.Max(s => s?.Pass ?? 1);
        if (passes > 1)
        {
            reasons.Add($"{Words.Count(waiting.Count, "line")} of {unit.Name} on {Words.Count(ports.Count - taken.Count, "port")} take {passes} passes: in each, only its own lines play.");
        }

        for (var i = 0; i < waiting.Count; i++)
        {
            if (seats[i] is { } seat)
            {
                yield return new LaidLine(unit.Id, waiting[i].Elements, waiting[i].Name, waiting[i].Width, seat.Port, seat.Side, seat.Pass)
                {
                    Group = waiting[i].Group,
                    Set = waiting[i].Set,
                };
            }
            else
            {
                reasons.Add($"{waiting[i].Name} of {unit.Name} fits on none of its ports: it stays where it is.");
            }
        }
    }

    /// <summary>The ports on which lines can be seated.</summary>
    /// <param name="unit">The source.</param>
    /// <param name="mode">The mode it will be in.</param>
    /// <param name="mainIsFree">True if neither a line nor a track is on the main port.</param>
    /// <param name="lines">How many lines want one.</param>
    /// <param name="reasons">Told what is not as one would expect.</param>
    private static List<ChartPort> Ports(Unit unit, ChartMode mode, bool mainIsFree, int lines, ImmutableArray<string>.Builder reasons)
    {
        var main = unit.Chart.MainPort;
        var ports = unit.Chart.Ports.Where(p => !p.IsMain && IsOpen(unit, mode, p)).ToList();
        if (unit.Chart.Ports is [var single])
        {
            ports.Add(single);
            reasons.Add($"{unit.Name} has its main output and no other.");
        }
        else if (unit.Chart.AssignedLeavesMain && mainIsFree && lines > ports.Count)
        {
            // A main port whose elements all leave it is a port like any other.
            ports.Insert(0, main);
            reasons.Add($"{unit.Name}'s {main.Name} is used too: every element leaves it, so nothing else is on it.");
        }

        return ports;
    }

    /// <summary>The lines a unit wants: sharers of a voice as one, whole groups as one where that is wished.</summary>
    private static List<Draft> Drafts(SplitView view, Unit unit, LayWish wish, ImmutableArray<string>.Builder reasons)
    {
        var drafts = new List<Draft>();
        var main = unit.Chart.MainPort.Number;
        foreach (var (element, _, chart, set) in view.SoundingElements.Where(e => e.Unit.Id == unit.Id && e.Chart.Kind != ElementKind.NoteOnly))
        {
            if (chart.Ports is [var only] && only == main)
            {
                reasons.Add($"{chart.Name} of {unit.Name} can leave by the main mix only, and stays there.");
                continue;
            }

            var group = wish.ByGroup ? unit.Chart.Group(chart.Group)?.Name : null;
            var key = group is not null ? $"group {group}" : chart.SharedVoice is not null ? $"voice {chart.SharedVoice}" : $"element {chart.Id}";
            if (drafts.FindIndex(d => d.Key == key) is >= 0 and var at)
            {
                drafts[at] = drafts[at].With(element, chart, group);
            }
            else
            {
                drafts.Add(new Draft(
                    key, [element], group ?? chart.Name, group is null ? chart.Width : Width.Stereo, chart.Ports.IsEmpty ? null : chart.Ports[0], set.Pan >= Pan.HardRight ? 1 : set.Pan <= Pan.HardLeft ? 0 : null)
                {
                    Group = group,
                    Set = group is null && Together.Of(chart) is { } drum ? $"{unit.Id}/{drum}" : null,
                });
            }
        }

        foreach (var shared in drafts.Where(d => d.Group is null && d.Elements.Length > 1))
        {
            reasons.Add($"{shared.Name} share a voice of {unit.Name} and so one line.");
        }

        return drafts;
    }

    private static ChartMode Widest(Unit unit) =>
        unit.Chart.Modes.MaxBy(m => m.Ports.Length) is { } widest && widest.Ports.Length > unit.Mode.Ports.Length ? widest : unit.Mode;

    private static bool IsOpen(Unit unit, ChartMode mode, ChartPort port) => unit.Chart.DeclaresPorts || mode.Ports.Contains(port.Number);

    /// <summary>True if an armed track carries what the draft would carry, and nothing else.</summary>
    private static bool HasLine(SplitView view, Draft draft) => view.ArmedTracks.Any(t =>
        view.SoundingIn(t) is { IsEmpty: false } carried
        && draft.Elements.All(carried.Contains)
        && carried.All(e => draft.Elements.Contains(e)));

    private sealed record Draft(string Key, ImmutableArray<ElementRef> Elements, string Name, Width Width, int? Only, int? Side)
    {
        public string? Group { get; init; }

        public string? Set { get; init; }

        public Draft With(ElementRef element, ChartElement chart, string? group) => this with
        {
            Elements = Elements.Add(element),
            Name = group ?? $"{Name} + {chart.Name}",
        };
    }
}

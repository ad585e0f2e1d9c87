using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>Lines with the seats that they were given.</summary>
/// <param name="Lines">Those that fit, in the order of sources and elements.</param>
/// <param name="Left">Those that fit nowhere, with their sources.</param>
internal sealed record LayPlan(ImmutableArray<LaidLine> Lines, ImmutableArray<(Unit Unit, LineDraft Draft)> Left)
{
    /// <summary>How many passes it takes.</summary>
    public int Passes => Lines.Select(l => l.Pass).DefaultIfEmpty(1).Max();

    /// <summary>
    /// The way that takes the fewest passes: with ports as they are if that will do, else with main ports that are free, further declared
    /// ports, and pairs shared by two mono lines, each only where it spares a pass.
    /// </summary>
    public static (LayPlan Plan, ImmutableArray<SourceToLay> Sources) Best(ImmutableArray<SourceToLay> sources, Sockets? sockets, LayWish wish)
    {
        var best = (Plan: Of(sources, sockets, hardPan: false), Sources: sources, HardPan: false);
        foreach (var (main, declare, hardPan) in Means.Where(m => (wish.Declare || !m.Declare) && (wish.HardPan || !m.HardPan)))
        {
            if (best.Plan is { Passes: 1, Left.IsEmpty: true })
            {
                break;
            }

            var with = main ? WithMains(sources, sockets, hardPan) : sources;
            with = declare ? Declaring(with, Of(with, sockets, hardPan)) : with;
            var plan = Of(with, sockets, hardPan);
            if (plan.Cost().CompareTo(best.Plan.Cost()) < 0)
            {
                best = (plan, with, hardPan);
            }
        }

        // What helps one source need not be done to all of them.
        for (var i = 0; i < sources.Length; i++)
        {
            var without = best.Sources.SetItem(i, sources[i]);
            if (best.Sources[i] != sources[i] && Of(without, sockets, best.HardPan) is var plan && plan.Cost().CompareTo(best.Plan.Cost()) <= 0)
            {
                best = (plan, without, best.HardPan);
            }
        }

        return (best.Plan, best.Sources);
    }

    /// <summary>What can be done to spare passes, the mildest first.</summary>
    private static readonly ImmutableArray<(bool Main, bool Declare, bool HardPan)> Means =
    [
        (true, false, false), (false, true, false), (true, true, false), (false, false, true), (true, false, true), (false, true, true), (true, true, true),
    ];

    /// <summary>A line that fits nowhere stays in its source's main mix, and then nothing else can be on that.</summary>
    private static ImmutableArray<SourceToLay> WithMains(ImmutableArray<SourceToLay> sources, Sockets? sockets, bool hardPan)
    {
        ImmutableArray<SourceToLay> with = [.. sources.Select(s => s with { UsesMain = s.MainIsFree })];
        var left = Of(with, sockets, hardPan).Left.Select(l => l.Unit.Id).ToHashSet();
        return [.. with.Select(s => s with { UsesMain = s.UsesMain && !left.Contains(s.Unit.Id) })];
    }

    private static ImmutableArray<SourceToLay> Declaring(ImmutableArray<SourceToLay> sources, LayPlan plan) =>
    [
        .. sources.Select(s => s.Unit.Chart.DeclaresPorts
            ? s with { Declared = Further(s.Unit.Chart, [.. plan.Lines.Where(l => l.Pass > 1 && l.UnitId == s.Unit.Id).Select(l => l.Width), .. plan.Left.Where(l => l.Unit.Id == s.Unit.Id && l.Draft.Ports.IsEmpty).Select(l => l.Draft.Width)]) }
            : s),
    ];

    /// <summary>Seats all lines.</summary>
    public static LayPlan Of(ImmutableArray<SourceToLay> sources, Sockets? sockets, bool hardPan)
    {
        var drafts = sources.SelectMany(s => s.Waiting.Select(d => (Source: s, Draft: d))).ToList();
        var needs = drafts.Select(d => new PassPlan.Need(d.Source.Unit.Id, d.Draft.Width)
        {
            Ports = d.Draft.Ports,
            Side = d.Draft.Side,
            Set = d.Draft.Set,
            Voice = d.Draft.Voice,
            Cabled = d.Source.Cabled,
        }).ToList();
        var seats = PassPlan.Of(needs, sources.ToDictionary(s => s.Unit.Id, s => s.Gate), sockets, hardPan);
        return new LayPlan(
            [
                .. from line in drafts.Zip(seats)
                   where line.Second is not null
                   let draft = line.First.Draft
                   select new LaidLine(line.First.Source.Unit.Id, draft.Elements, draft.Name, draft.Width, line.Second.Port, line.Second.Side, line.Second.Pass)
                   {
                       Group = draft.Group,
                       Input = line.Second.Input,
                   },
            ],
            [.. drafts.Zip(seats).Where(l => l.Second is null).Select(l => (l.First.Source.Unit, l.First.Draft))]);
    }

    /// <summary>What less of is better: lines that fit nowhere, passes in all, and passes of each source.</summary>
    private (int Left, int Passes, int OfSources) Cost() => (Left.Length, Passes, Lines.GroupBy(l => l.UnitId).Sum(g => g.Max(l => l.Pass)));

    /// <summary>A port for each line that would have to wait, pairs first, as declaring them numbers them.</summary>
    private static ImmutableArray<ChartPort> Further(Chart chart, IReadOnlyList<Width> late)
    {
        var number = chart.Ports.Max(p => p.Number);
        var channel = chart.Channels + 1;
        var ports = ImmutableArray.CreateBuilder<ChartPort>();
        foreach (var width in late.OrderDescending().TakeWhile(w => channel + (int)w - 1 <= ChartRules.MostChannels))
        {
            number++;
            ports.Add(new ChartPort(number, $"{LayEdits.DeclaredLabel} {number}", channel, width, Tap.AfterFader));
            channel += (int)width;
        }

        return ports.ToImmutable();
    }
}

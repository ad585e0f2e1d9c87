using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>Why lines are laid as they are, in sentences.</summary>
internal static class LayReasons
{
    /// <summary>What decided a plan.</summary>
    /// <param name="sources">The sources as the plan has them.</param>
    /// <param name="plan">The plan.</param>
    /// <param name="sockets">The inputs for cables; null if nothing comes in over any.</param>
    /// <param name="withEnough">The passes that it would take with as many inputs as one likes.</param>
    public static IEnumerable<string> Of(ImmutableArray<SourceToLay> sources, LayPlan plan, Sockets? sockets, int withEnough)
    {
        foreach (var source in sources)
        {
            var unit = source.Unit;
            if (source.Mode.Id != unit.ModeId)
            {
                yield return $"{unit.Name} is set to {source.Mode.Name}, since {unit.Mode.Name} has only {Words.Count(unit.Mode.Ports.Length, "port")}.";
            }

            if (unit.Chart.Ports.Length == 1)
            {
                yield return $"{unit.Name} has its main output and no other.";
            }

            if (source.UsesMain)
            {
                yield return $"{unit.Name}'s {unit.Chart.MainPort.Name} is used too: every element leaves it, so nothing else is on it.";
            }

            if (!source.Declared.IsEmpty)
            {
                yield return $"{Words.Count(source.Declared.Length, "output")} of {unit.Name} {(source.Declared.Length == 1 ? "is" : "are")} declared, which spares a pass. It has to be loaded again before {(source.Declared.Length == 1 ? "it carries" : "they carry")} anything.";
            }

            var passes = PortPasses(source, plan);
            if (passes > 1)
            {
                yield return $"{Words.Count(source.Waiting.Count, "line")} of {unit.Name} on {Words.Count(source.Gate.Count, "port")} take {passes} passes: in each, only its own lines play.";
            }
        }

        if (plan.Lines.Where(l => Shares(plan, l)).Select(l => l.Name).ToList() is { Count: > 0 } shared)
        {
            yield return $"{Words.List(shared)} share pairs, panned hard apart: each is still a clean channel of its own, and the pan it has in the music is given back on its track.";
        }

        foreach (var (unit, draft) in plan.Left.Where(l => !sources.First(s => s.Unit.Id == l.Unit.Id).Cabled || !FitsAPort(sources, l)))
        {
            yield return $"{draft.Name} of {unit.Name} fits on none of its ports: it stays where it is.";
        }

        foreach (var sentence in OfSockets(sources, plan, sockets, withEnough))
        {
            yield return sentence;
        }
    }

    /// <summary>What a proposal changes beside lines, so that nobody is surprised: faders, and tracks that go.</summary>
    public static IEnumerable<string> OfChanges(Split before, Split after)
    {
        var faders = (from unit in after.Units
                      from element in unit.Elements
                      let was = before.Unit(unit.Id)!.Element(element.ElementId)
                      where was.FaderDb != element.FaderDb
                      select $"{unit.Chart.Element(element.ElementId)!.Name} from {was.FaderDb}").ToList();
        if (faders.Count > 0)
        {
            yield return $"Faders go to unity: {Words.List(faders)}.";
        }

        if (before.Tracks.Where(t => after.Track(t.Id) is null).Select(t => t.Title).ToList() is { Count: > 0 } gone)
        {
            yield return $"{Words.List(gone)} {(gone.Count == 1 ? "goes" : "go")}: what {(gone.Count == 1 ? "it" : "they")} carried has another track.";
        }
    }

    /// <summary>Where one pass does not hold all lines: how many are needed, how many there are, and by how many it is short.</summary>
    public static ImmutableArray<string> Limits(ImmutableArray<SourceToLay> sources, LayPlan plan, Sockets? sockets)
    {
        if (plan.Passes == 1 && plan.Left.IsEmpty)
        {
            return [];
        }

        var limits = ImmutableArray.CreateBuilder<string>();
        foreach (var source in sources)
        {
            var needed = source.Waiting.Sum(d => (int)d.Width);
            var gate = (source with { UsesMain = source.MainIsFree }).Gate;
            var lines = source.Waiting.Count;
            if (lines > gate.Count)
            {
                limits.Add($"{source.Unit.Name}: {Words.Count(lines, "line")} needed, {Words.Count(gate.Count, "port")} there, {lines - gate.Count} short ({Words.Count(needed, "channel")} needed, {gate.Sum(p => (int)p.Width)} there).");
            }
        }

        var wanted = sources.Where(s => s.Cabled).SelectMany(s => s.Waiting).Sum(d => (int)d.Width);
        if (sockets is not null && wanted > sockets.Free.Length)
        {
            limits.Add($"{Words.Count(wanted, "channel")} needed over cables, {Words.Count(sockets.Free.Length, "input")} there, {wanted - sockets.Free.Length} short.");
        }

        return limits.ToImmutable();
    }

    private static IEnumerable<string> OfSockets(ImmutableArray<SourceToLay> sources, LayPlan plan, Sockets? sockets, int withEnough)
    {
        var cabled = sources.Where(s => s.Cabled).ToList();
        if (sockets is null || cabled.Count == 0)
        {
            yield break;
        }

        var names = Words.List([.. cabled.Select(s => s.Unit.Name)]);
        var channels = Words.Count(cabled.SelectMany(s => s.Waiting).Sum(d => (int)d.Width), "channel");
        var left = plan.Left.Where(l => FitsAPort(sources, l) && cabled.Exists(s => s.Unit.Id == l.Unit.Id)).Select(l => l.Draft.Name).ToList();
        if (left.Count > 0)
        {
            yield return $"{names} come in over cables, and there are not enough sockets for {channels}: add some, or a looped-back pair, at Recorder, or connect by USB. Not laid: {Words.List(left)}.";
        }
        else if (plan.Passes > withEnough)
        {
            yield return $"{channels} of {names} on {Words.Count(sockets.Free.Length, "socket")} take {plan.Passes} passes: the cables are moved between them.";
        }
    }

    /// <summary>The passes that a source's ports alone would take.</summary>
    private static int PortPasses(SourceToLay source, LayPlan plan) => source.Cabled
        ? LayPlan.Of([source], null, hardPan: plan.Lines.Any(l => Shares(plan, l))).Passes
        : plan.Lines.Where(l => l.UnitId == source.Unit.Id).Select(l => l.Pass).Distinct().Count();

    private static bool FitsAPort(ImmutableArray<SourceToLay> sources, (Unit Unit, LineDraft Draft) left) =>
        LayPlan.Of([sources.First(s => s.Unit.Id == left.Unit.Id) with { Waiting = [left.Draft] }], null, hardPan: true).Left.IsEmpty;

    private static bool Shares(LayPlan plan, LaidLine line) => line.Width == Width.Mono && line.Port.Width == Width.Stereo
        && plan.Lines.Any(other => other != line && other.UnitId == line.UnitId && other.Pass == line.Pass && other.Port.Number == line.Port.Number);
}

using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Takes the shelf's newer chart into the session. Settings stay for every element, voice and group that is still there.</summary>
/// <param name="UnitId">Which source.</param>
/// <param name="Chart">The chart as it is on the shelf.</param>
public sealed record UpdateChart(UnitId UnitId, Chart Chart) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => $"Update {unit.Name} from the shelf";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit)
    {
        var fresh = Unit.FromChart(unit.Id, Chart);
        int? Kept(int? port) => port is { } number && Chart.Port(number) is null ? null : port;
        StraightSend? Led(StraightSend? send) => send is { } to && Chart.Port(to.Port) is null ? null : send;
        return fresh with
        {
            Name = unit.Name,
            ModeId = Chart.Modes.Any(m => m.Id == unit.ModeId) ? unit.ModeId : fresh.ModeId,
            ModeInForceId = Chart.Modes.Any(m => m.Id == unit.ModeInForceId) ? unit.ModeInForceId : null,
            Clock = unit.Clock,
            Simulated = unit.Simulated,
            UnloadedPorts = [.. unit.UnloadedPorts.Where(p => Chart.Port(p) is not null)],
            Groups = [.. unit.Groups.Where(g => Chart.Group(g.Name) is not null).Select(g => g with { Port = Kept(g.Port), Straight = Led(g.Straight) })],
            Elements = [.. fresh.Elements.Select(e => unit.Elements.FirstOrDefault(o => o.ElementId == e.ElementId) is { } old ? old with { Port = Kept(old.Port), Straight = Led(old.Straight) } : e)],
            PortLevels = [.. unit.PortLevels.Where(p => Chart.Port(p.Port) is not null)],
            NoteRoutes = unit.NoteRoutes,
            Voices = [.. fresh.Voices.Select(v => unit.Voices.FirstOrDefault(o => o.VoiceId == v.VoiceId) ?? v)],
        };
    }
}

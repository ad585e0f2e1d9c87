using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Lets a channel of the song play a source on another channel or other keys, or as it stands.</summary>
/// <param name="UnitId">Which source.</param>
/// <param name="From">The MIDI channel of the song, 1 to 16.</param>
/// <param name="To">The channel on which the source hears it; null to hear it as it stands.</param>
/// <param name="KeyShift">By how many keys it is moved up.</param>
public sealed record RouteNotes(UnitId UnitId, int From, int? To, int KeyShift) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => To == NoteRoute.Nowhere ? $"Keep channel {From} from {unit.Name}" : To is { } to && (to != From || KeyShift != 0)
        ? $"Let channel {From} play {unit.Name} on channel {to}{(KeyShift == 0 ? "" : $", {Words.Count(Math.Abs((long)KeyShift), "key")} {(KeyShift > 0 ? "higher" : "lower")}")}"
        : $"Let channel {From} play {unit.Name} as it stands";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit)
    {
        var others = unit.NoteRoutes.RemoveAll(r => r.From == From);
        return unit with { NoteRoutes = To is { } to && (to != From || KeyShift != 0) ? others.Add(new NoteRoute(From, to, KeyShift)) : others };
    }
}

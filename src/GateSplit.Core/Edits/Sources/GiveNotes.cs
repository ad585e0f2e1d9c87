using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Gives notes that several sources hear to one of them: the others hear those channels of the song no more.</summary>
/// <param name="UnitId">The source that keeps them.</param>
/// <param name="Channels">The channels of the song.</param>
public sealed record GiveNotes(UnitId UnitId, ImmutableArray<int> Channels) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Give the notes to {split.Unit(UnitId)?.Name ?? "a source"} alone";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Unit(UnitId) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        var channels = Channels.ToHashSet();
        return split with
        {
            Units =
            [
                .. split.Units.Select(u => u.Chart.Id != unit.Chart.Id ? u : u with
                {
                    NoteRoutes = u.Id == UnitId
                        ? u.NoteRoutes.RemoveAll(r => channels.Contains(r.From) && r.To == NoteRoute.Nowhere)
                        : [.. u.NoteRoutes.RemoveAll(r => channels.Contains(r.From)), .. channels.Order().Select(c => new NoteRoute(c, NoteRoute.Nowhere))],
                }),
            ],
        };
    }
}

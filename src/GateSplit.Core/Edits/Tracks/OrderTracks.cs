using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Puts the tracks into another order.</summary>
/// <param name="TrackIds">All of them, in their new order.</param>
public sealed record OrderTracks(ImmutableArray<TrackId> TrackIds) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => "Put the tracks into order";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) =>
        TrackIds.Length == split.Tracks.Length && TrackIds.ToHashSet().SetEquals(split.Tracks.Select(t => t.Id))
            ? split with { Tracks = [.. TrackIds.Select(id => split.Track(id)!)] }
            : new Refusal("The tracks have changed meanwhile; put them into order again.");
}

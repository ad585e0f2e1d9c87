using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Removes a track. What it recorded stays in its takes.</summary>
/// <param name="TrackId">Which.</param>
public sealed record RemoveTrack(TrackId TrackId) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Remove {split.Track(TrackId)?.Title ?? "a track"}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split.Track(TrackId) is { } track
        ? split with { Tracks = split.Tracks.Remove(track) }
        : new Refusal("This track is not in the split any more.");
}

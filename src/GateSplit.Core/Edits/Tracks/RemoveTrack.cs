using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Removes a track. What it recorded stays in its takes.</summary>
/// <param name="TrackId">Which.</param>
public sealed record RemoveTrack(string TrackId) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Remove {split.Track(TrackId)?.Title ?? "a track"}";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split) => split.Track(TrackId) is { } track
        ? split with { Tracks = split.Tracks.Remove(track) }
        : new Refusal("This track is not in the split any more.");
}

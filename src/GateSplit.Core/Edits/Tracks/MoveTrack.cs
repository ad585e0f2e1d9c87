using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Moves a track up or down the order.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Steps">Places down; negative for up.</param>
public sealed record MoveTrack(TrackId TrackId, int Steps) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Move {split.Track(TrackId)?.Title ?? "a track"} {(Steps < 0 ? "up" : "down")}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Track(TrackId) is not { } track)
        {
            return new Refusal("This track is not in the split any more.");
        }

        var place = Math.Clamp(split.Tracks.IndexOf(track) + Steps, 0, split.Tracks.Length - 1);
        return split with { Tracks = split.Tracks.Remove(track).Insert(place, track) };
    }
}

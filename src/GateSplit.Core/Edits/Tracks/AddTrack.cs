using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Adds a track.</summary>
/// <param name="Track">The track; its id is not yet in the split.</param>
/// <param name="At">0-based place in the order; null for the end.</param>
public sealed record AddTrack(Track Track, int? At = null) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Add the track {Track.Title}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Tracks.Length >= SplitRules.MostTracks)
        {
            return new Refusal($"A split has at most {SplitRules.MostTracks} tracks.");
        }

        return split.Track(Track.Id) is not null
            ? new Refusal("This track is already in the split.")
            : split with { Tracks = split.Tracks.Insert(Math.Clamp(At ?? split.Tracks.Length, 0, split.Tracks.Length), Track) };
    }
}

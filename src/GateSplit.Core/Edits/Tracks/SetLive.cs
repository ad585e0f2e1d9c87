using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Makes a track a live channel, heard and mixed but never recorded, or a recorded track again.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Live">True for a live channel.</param>
public sealed record SetLive(TrackId TrackId, bool Live) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => Live ? $"Make {track.Title} a live channel" : $"Make {track.Title} a recorded track";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) => track with { Live = Live, Armed = !Live };
}

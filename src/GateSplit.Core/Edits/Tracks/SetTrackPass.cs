using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Records a track in another pass.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Pass">The pass, from 1.</param>
public sealed record SetTrackPass(TrackId TrackId, int Pass) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Record {track.Title} in pass {Pass}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) =>
        track with { Pass = Pass };
}

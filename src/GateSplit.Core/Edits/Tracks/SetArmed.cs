using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Arms or disarms a track.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Armed">True to arm.</param>
public sealed record SetArmed(TrackId TrackId, bool Armed) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"{(Armed ? "Arm" : "Disarm")} {track.Title}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) => track with { Armed = Armed, Live = track.Live && !Armed };
}

using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Pans a track in the recorder's mix; what it records is not touched.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Pan">-1 left to 1 right.</param>
public sealed record SetTrackPan(TrackId TrackId, Pan Pan) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Pan the track {track.Title}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) =>
        track with { Pan = Pan };
}

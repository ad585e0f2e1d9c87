using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Moves a track's own fader; what it records is not touched.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="LevelDb">-120 to +12 dB.</param>
public sealed record SetTrackLevel(TrackId TrackId, Decibels LevelDb) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Set {track.Title} to {LevelDb}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) =>
        track with { LevelDb = LevelDb };
}

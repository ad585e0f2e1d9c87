using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Makes a track mono or stereo.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Width">The new width.</param>
public sealed record SetTrackWidth(TrackId TrackId, Width Width) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Make {track.Title} {(Width == Width.Mono ? "mono" : "stereo")}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) =>
        track.Input is { } input && MissingInput(split, input, Width) is { } refusal ? refusal : track with { Width = Width };
}

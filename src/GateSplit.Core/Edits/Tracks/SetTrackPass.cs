using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Records a track in another pass.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Pass">The pass, from 1.</param>
public sealed record SetTrackPass(string TrackId, int Pass) : TrackEdit(TrackId)
{
    /// <summary>The most passes a split has.</summary>
    public const int Most = 64;

    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Record {track.Title} in pass {Pass}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) =>
        Pass is >= 1 and <= Most ? track with { Pass = Pass } : new Refusal($"A split has 1 to {Most} passes.");
}

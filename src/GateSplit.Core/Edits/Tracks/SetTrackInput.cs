using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Lets a track listen to another input, or to none.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Input">The input, or the first of a pair; null for none.</param>
public sealed record SetTrackInput(TrackId TrackId, InputRef? Input) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => Input is null
        ? $"Take {track.Title} off its input"
        : $"Put {track.Title} on {split.InputName(track with { Input = Input })}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) =>
        Input is { } input && MissingInput(split, input, track.Width) is { } refusal ? refusal : track with { Input = Input };
}

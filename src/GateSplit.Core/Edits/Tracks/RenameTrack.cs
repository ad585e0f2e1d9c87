using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Names a track.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="NewName">Its name, 80 characters at most.</param>
public sealed record RenameTrack(TrackId TrackId, string NewName) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Rename {track.Title} to {NewName}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) => track with { Name = NewName.Trim() };
}

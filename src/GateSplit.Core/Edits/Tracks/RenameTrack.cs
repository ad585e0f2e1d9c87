using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Names a track.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="NewName">Its name, 80 characters at most.</param>
public sealed record RenameTrack(string TrackId, string NewName) : TrackEdit(TrackId)
{
    /// <summary>The longest name a track can have.</summary>
    public const int Longest = 80;

    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Rename {track.Title} to {NewName}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) => NewName.Any(char.IsControl)
        ? new Refusal("A track's name is one line, without tabs or other control characters.")
        : NewName.Trim().Length <= Longest
            ? track with { Name = NewName.Trim() }
            : new Refusal($"A track's name has at most {Longest} characters.");
}

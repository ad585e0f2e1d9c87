using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Keeps the notes of a track beside its audio, or not.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Keeps">True to keep them.</param>
public sealed record SetKeepsNotes(TrackId TrackId, bool Keeps) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"{(Keeps ? "Keep" : "Leave out")} the notes of {track.Title}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) => track with { KeepsNotes = Keeps };
}

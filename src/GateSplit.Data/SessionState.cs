using GateSplit.Core.Splits;

namespace GateSplit.Data;

/// <summary>A session as it is now.</summary>
/// <param name="Id">The session.</param>
/// <param name="Name">Its name.</param>
/// <param name="Song">Its MIDI file.</param>
/// <param name="SongId">Which of the songs that it has had.</param>
/// <param name="Revision">The revision its split is at.</param>
/// <param name="Split">The split.</param>
/// <param name="Undo">The edit that undo takes back; null if there is none.</param>
/// <param name="Redo">The edit that redo makes again; null if there is none.</param>
public sealed record SessionState(long Id, string Name, byte[] Song, long SongId, int Revision, Split Split, string? Undo, string? Redo);

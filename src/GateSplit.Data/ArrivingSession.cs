using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Handoff;

namespace GateSplit.Data;

/// <summary>A whole session that has come in, whose recordings are in the audio store, and that waits to be kept.</summary>
/// <param name="Session">What it says of itself.</param>
/// <param name="Revisions">Its splits with their songs, by revision.</param>
/// <param name="Notes">The notes that sounded in takes, by the number of the take.</param>
/// <param name="Charts">The charts that came with it.</param>
/// <param name="Tracks">The tracks of each take with their recordings, by the number of the take.</param>
public sealed record ArrivingSession(
    SessionBundle Session,
    ImmutableDictionary<int, SessionFile.Opened> Revisions,
    ImmutableDictionary<int, byte[]> Notes,
    ImmutableArray<Chart> Charts,
    IReadOnlyDictionary<int, IReadOnlyList<NewTake.Track>> Tracks);

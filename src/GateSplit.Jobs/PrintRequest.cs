using GateSplit.Core.Planning;
using GateSplit.Core.Splits;

namespace GateSplit.Jobs;

/// <summary>What a pass is to record.</summary>
/// <param name="Revision">The revision of the split it is recorded by, however the split is changed meanwhile.</param>
/// <param name="Tracks">The tracks to record; empty for all that are armed.</param>
/// <param name="Kind">What a print of this kind records.</param>
public sealed record PrintRequest(int Revision, IReadOnlyList<TrackId> Tracks, PrintKind Kind = PrintKind.Lines);

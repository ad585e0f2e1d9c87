using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>One track of a take in a bundle.</summary>
/// <param name="Position">Its place in the take, from 1.</param>
/// <param name="Pass">The pass it was recorded in, from 1.</param>
/// <param name="TrackId">The track of the split.</param>
/// <param name="Name">Its name then.</param>
/// <param name="Family">The family of what it carries; null if mixed or nothing.</param>
/// <param name="Elements">What it carries, in words.</param>
/// <param name="Source">Where it came from, in words.</param>
/// <param name="Remark">A remark.</param>
/// <param name="File">Its recording, a WAVE file.</param>
public sealed record BundledTrack(int Position, int Pass, TrackId TrackId, string Name, Family? Family, string Elements, string Source, string Remark, string File);

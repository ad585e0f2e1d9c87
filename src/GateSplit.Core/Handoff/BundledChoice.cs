using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>The take that counts for a line, where somebody has chosen it.</summary>
/// <param name="TrackId">The track.</param>
/// <param name="Take">The number of the take.</param>
public sealed record BundledChoice(TrackId TrackId, int Take);

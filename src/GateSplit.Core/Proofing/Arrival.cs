using GateSplit.Core.Quantities;

namespace GateSplit.Core.Proofing;

/// <summary>An element as it arrived on one channel in a roll call.</summary>
/// <param name="Channel">The channel of the recording, from 1.</param>
/// <param name="Level">RMS while it sounds, less the noise.</param>
/// <param name="Peak">Its highest sample.</param>
/// <param name="LatencySeconds">By how much later it is there than on the channel where it is loudest; null where that cannot be told.</param>
/// <param name="Polarity">-1 where it is upside down against that channel; null where that cannot be told.</param>
/// <param name="Clips">True if it reaches full scale.</param>
public sealed record Arrival(int Channel, Decibels Level, Decibels Peak, double? LatencySeconds, int? Polarity, bool Clips);

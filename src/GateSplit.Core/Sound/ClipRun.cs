using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A run of samples at full scale.</summary>
/// <param name="StartFrame">0-based frame of the first.</param>
/// <param name="Length">How many, at least <see cref="ChannelMeter.ClipLength"/>.</param>
public readonly record struct ClipRun(Frames StartFrame, Frames Length);

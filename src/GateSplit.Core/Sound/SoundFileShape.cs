using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>What a sound file says of itself.</summary>
/// <param name="Format">The shape of its samples.</param>
/// <param name="Frames">Their number for each channel.</param>
public sealed record SoundFileShape(AudioFormat Format, Frames Frames);

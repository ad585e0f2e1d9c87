namespace GateSplit.Core.Charts;

/// <summary>How an element hears a voice.</summary>
/// <param name="VoiceId">The voice.</param>
/// <param name="GainDb">At what gain.</param>
/// <param name="Metres">From how far away, which delays it at 343 m/s.</param>
/// <param name="Pan">Where a stereo element hears it, -1 left to 1 right.</param>
/// <param name="Bleed">True if it is not what the element is meant for, so that the bleed control turns it.</param>
public sealed record Hearing(string VoiceId, double GainDb = 0, double Metres = 0, double Pan = 0, bool Bleed = false);

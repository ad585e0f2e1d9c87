namespace GateSplit.Core.Proofing;

/// <summary>A note that is held.</summary>
/// <param name="Start">Where it begins, in seconds from the start of the song.</param>
/// <param name="End">Where it ends.</param>
/// <param name="Key">0 to 127; 60 is middle C.</param>
public readonly record struct Tone(double Start, double End, int Key);

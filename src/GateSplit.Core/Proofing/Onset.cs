namespace GateSplit.Core.Proofing;

/// <summary>The beginning of a sound.</summary>
/// <param name="Seconds">When, from the start of the file.</param>
/// <param name="Strength">How much louder it is after it than before: a root mean square of full scale.</param>
public readonly record struct Onset(double Seconds, double Strength);

namespace GateSplit.Core.Splits;

/// <summary>Two inputs whose cables are in each other's place.</summary>
/// <param name="A">One.</param>
/// <param name="B">The other.</param>
public sealed record CrossedInputs(InputRef A, InputRef B);

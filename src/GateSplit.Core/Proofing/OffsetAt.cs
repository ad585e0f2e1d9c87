namespace GateSplit.Core.Proofing;

/// <summary>By how much a take is late at one place of it.</summary>
/// <param name="At">Seconds from its start.</param>
/// <param name="Offset">Seconds by which it is late there.</param>
public readonly record struct OffsetAt(double At, double Offset);

using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>Where one recording lies in another.</summary>
/// <param name="Start">Frames by which it is later at its start, with fractions.</param>
/// <param name="Slope">What that grows by with each frame.</param>
/// <param name="Found">What was found window by window: frames from the start, and how many it is later there.</param>
public readonly record struct Placement(double Start, double Slope, ImmutableArray<(double At, double Value)> Found);

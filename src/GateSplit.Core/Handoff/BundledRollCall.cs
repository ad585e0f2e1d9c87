using System.Collections.Immutable;
using GateSplit.Core.Proofing;

namespace GateSplit.Core.Handoff;

/// <summary>A roll call in a bundle.</summary>
/// <param name="Pass">The pass it was of, from 1.</param>
/// <param name="Made">When it was read, in UTC.</param>
/// <param name="ByHand">True if it was played by hand.</param>
/// <param name="Files">Names of what was read; none for one of the simulated rig.</param>
/// <param name="Reading">What it says.</param>
public sealed record BundledRollCall(int Pass, DateTime Made, bool ByHand, ImmutableArray<string> Files, RollCallReading Reading);

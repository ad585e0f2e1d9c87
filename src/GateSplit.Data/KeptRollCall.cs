using GateSplit.Core.Proofing;

namespace GateSplit.Data;

/// <summary>A roll call as it was read last.</summary>
/// <param name="Pass">The pass it was of, from 1.</param>
/// <param name="MadeAt">When it was read.</param>
/// <param name="ByHand">True if it was played by hand.</param>
/// <param name="Files">What was read, in the order of the channels; empty for one of the simulated rig.</param>
/// <param name="Reading">What it says.</param>
public sealed record KeptRollCall(int Pass, DateTime MadeAt, bool ByHand, IReadOnlyList<string> Files, RollCallReading Reading);

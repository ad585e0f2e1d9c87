namespace GateSplit.Jobs;

/// <summary>Which roll call is to be read.</summary>
/// <param name="Pass">The pass it is of, from 1.</param>
/// <param name="ByHand">True if it was played by hand.</param>
/// <param name="Staging">The folder its recording lies in; null to play it on the simulated rig.</param>
public sealed record RollCallRequest(int Pass, bool ByHand, string? Staging);

namespace GateSplit.Jobs;

/// <summary>Which take is to be proved.</summary>
/// <param name="TakeId">The take.</param>
public sealed record ProofRequest(long TakeId);

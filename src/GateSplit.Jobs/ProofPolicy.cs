namespace GateSplit.Jobs;

/// <summary>When takes are proved.</summary>
/// <param name="ByItself">True after every print and bring-in; false only when a person asks.</param>
public sealed record ProofPolicy(bool ByItself = true);

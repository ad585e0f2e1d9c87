using GateSplit.Core.Proofing;

namespace GateSplit.Data;

/// <summary>The proof of a take as it was made last.</summary>
/// <param name="Proof">What it says.</param>
/// <param name="Before">What was said of the printed files, before any mend; null for the same.</param>
/// <param name="Untried">What was said before the mends on trial; null while there are none, or where it is not known.</param>
/// <param name="Mends">The mends it was made with, as JSON.</param>
/// <param name="MadeAt">When.</param>
public sealed record KeptProof(TakeProof Proof, TakeProof? Before, TakeProof? Untried, string Mends, DateTime MadeAt);

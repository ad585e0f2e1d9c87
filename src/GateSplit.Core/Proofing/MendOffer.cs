namespace GateSplit.Core.Proofing;

/// <summary>A mend that a finding asks for.</summary>
/// <param name="Mend">The mend.</param>
/// <param name="Sure">True if nobody needs to listen first.</param>
public sealed record MendOffer(Mend Mend, bool Sure);

namespace GateSplit.Core.Handoff;

/// <summary>Something that proof finds and that is meant so.</summary>
/// <param name="Finding">The finding's key.</param>
/// <param name="Why">Why it is meant so.</param>
public sealed record BundledReason(string Finding, string Why);

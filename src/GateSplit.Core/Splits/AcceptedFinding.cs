namespace GateSplit.Core.Splits;

/// <summary>A finding that somebody looked at and meant to be so. It holds as long as the finding says the same.</summary>
/// <param name="Key">The finding.</param>
/// <param name="Sentence">What it said.</param>
/// <param name="Why">Why it is meant.</param>
public sealed record AcceptedFinding(string Key, string Sentence, string Why);

namespace GateSplit.Core;

/// <summary>Something that cannot be done, and why, in words for the person who asked.</summary>
/// <param name="Sentence">One or more full sentences.</param>
public sealed record Refusal(string Sentence);

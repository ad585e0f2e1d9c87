namespace GateSplit.Jobs;

/// <summary>A job that cannot be done, with a sentence for the user.</summary>
/// <param name="sentence">Why.</param>
internal sealed class JobRefused(string sentence) : Exception(sentence);

namespace GateSplit.Core.Splits;

/// <summary>A place in a bank: an input channel, or the first of a pair.</summary>
/// <param name="BankId">The bank.</param>
/// <param name="Channel">1-based.</param>
public sealed record InputRef(string BankId, int Channel);

using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>How loud one stretch of a file is.</summary>
/// <param name="Peak">Its highest sample peak, all channels together.</param>
/// <param name="ShortTerm">Short-term loudness (3 s) at its end, in LUFS; null where it is silent or less was heard.</param>
public readonly record struct HistoryPoint(Decibels Peak, double? ShortTerm);

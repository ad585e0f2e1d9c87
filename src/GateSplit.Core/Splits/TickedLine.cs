namespace GateSplit.Core.Splits;

/// <summary>A line that somebody has heard and found right.</summary>
/// <param name="Element">Whose line.</param>
/// <param name="Way">Its way as it was then; once the line goes another way, the tick counts no more.</param>
public sealed record TickedLine(ElementRef Element, string Way);

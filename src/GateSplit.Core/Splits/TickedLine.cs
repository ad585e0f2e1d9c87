namespace GateSplit.Core.Splits;

/// <summary>A line that somebody has heard and found right.</summary>
/// <param name="Element">Whose line.</param>
/// <param name="Way">Its way as it was then; once the line goes another way, the tick counts no more.</param>
public sealed record TickedLine(ElementRef Element, string Way)
{
    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Split split, string place) =>
    [
        .. Core.Misfits.Unless(split.HasElement(Element), $"{place}.element", $"There is no element {Element} in this split any more."),
        .. Core.Misfits.Unless(Names.FitSentence(Way, 4 * Names.LongestSentence), $"{place}.way", "The way of a line is one sentence."),
    ];
}

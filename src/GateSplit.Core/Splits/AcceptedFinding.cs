namespace GateSplit.Core.Splits;

/// <summary>A finding that somebody looked at and meant to be so. It holds as long as the finding says the same.</summary>
/// <param name="Key">The finding.</param>
/// <param name="Sentence">What it said.</param>
/// <param name="Why">Why it is meant.</param>
public sealed record AcceptedFinding(string Key, string Sentence, string Why)
{
    /// <summary>The longest reason.</summary>
    public const int LongestReason = 200;

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) =>
    [
        .. Core.Misfits.Unless(Names.Fit(Key, 4 * Names.Longest) && Names.FitSentence(Sentence), place, "A finding has a key and a sentence."),
        .. Core.Misfits.Unless(Names.Fit(Why, LongestReason) && Why.Trim() == Why, $"{place}.why", $"Say in 1 to {LongestReason} letters why it is meant."),
    ];
}

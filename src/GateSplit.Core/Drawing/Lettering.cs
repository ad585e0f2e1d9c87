namespace GateSplit.Core.Drawing;

/// <summary>How much room words take in the drawing, counted on the safe side, so that they never run into each other.</summary>
public static class Lettering
{
    private const string Narrow = "iljtfI.,:;'|!()[] -";
    private const string Wide = "mwMW@%";

    /// <summary>About how wide words are, rather too wide than too narrow.</summary>
    public static double WidthOf(string text) => text.Sum(c => Narrow.Contains(c, StringComparison.Ordinal) ? 4.6 : Wide.Contains(c, StringComparison.Ordinal) ? 11.5 : c > 0x2E7F ? 15 : char.IsUpper(c) ? 8.8 : 7.2);

    /// <summary>As much of the words as has room, with an ellipsis for what has not.</summary>
    public static string Fit(string text, double width)
    {
        if (WidthOf(text) <= width)
        {
            return text;
        }

        var kept = text.Length;
        while (kept > 0 && WidthOf(text[..kept]) + WidthOf("…") > width)
        {
            kept--;
        }

        // Half of a character that is written as two is none.
        kept -= kept > 0 && char.IsHighSurrogate(text[kept - 1]) ? 1 : 0;
        return text[..kept].TrimEnd() + "…";
    }
}

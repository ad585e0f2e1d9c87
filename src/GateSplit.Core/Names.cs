using System.Text;

namespace GateSplit.Core;

/// <summary>What a name may be, wherever one is kept.</summary>
public static class Names
{
    /// <summary>The most letters of a name.</summary>
    public const int Longest = 80;

    /// <summary>The most letters of a sentence.</summary>
    public const int LongestSentence = 2000;

    /// <summary>True of a name: not blank, one line, not too long.</summary>
    public static bool Fit(string? text, int longest = Longest) => !string.IsNullOrWhiteSpace(text) && FitBlank(text, longest);

    /// <summary>True of a name, and of none.</summary>
    public static bool FitBlank(string? text, int longest = Longest) => text is not null && text.Length <= longest && IsText(text, lines: false);

    /// <summary>True of a sentence or several, on as many lines as they need.</summary>
    public static bool FitSentence(string? text, int longest = LongestSentence) => text is not null && text.Length <= longest && IsText(text, lines: true);

    /// <summary>True of a short id: small letters, digits and hyphens.</summary>
    public static bool FitId(string? text) => text is { Length: > 0 and <= Longest } && text.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-');

    /// <summary>Half of a pair of surrogates is no text, and the database takes no zero.</summary>
    private static bool IsText(string text, bool lines)
    {
        for (var i = 0; i < text.Length;)
        {
            if (!Rune.TryGetRuneAt(text, i, out var rune) || (Rune.IsControl(rune) && !(lines && rune.Value is '\n' or '\r' or '\t')))
            {
                return false;
            }

            i += rune.Utf16SequenceLength;
        }

        return true;
    }
}

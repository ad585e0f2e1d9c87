using System.Globalization;
using System.Text;

namespace GateSplit.Core;

/// <summary>What a file name may be on every system.</summary>
public static class FileName
{
    private const int LongestBytes = 120;
    private const char Delete = '\u007F';
    private const char LastControl = '\u009F';
    private const char Joiner = '\u200D';
    private const char NonJoiner = '\u200C';
    private const string Signs = "<>:\"/\\|?*";
    private static readonly HashSet<string> Reserved = new(
        ["CON", "CONIN$", "CONOUT$", "PRN", "AUX", "NUL", .. "0123456789¹²³".SelectMany(n => new[] { $"COM{n}", $"LPT{n}" })],
        StringComparer.OrdinalIgnoreCase);

    /// <summary>True of a sign that a file name cannot have on some system: what separates or stands for other names, and control characters and ends of lines.</summary>
    public static bool IsUnusable(char sign) =>
        sign is < ' ' or (>= Delete and <= LastControl) || Signs.Contains(sign, StringComparison.Ordinal) || char.GetUnicodeCategory(sign) is UnicodeCategory.LineSeparator or UnicodeCategory.ParagraphSeparator;

    /// <summary>
    /// A name that every file system takes and that looks like what it is: nothing unusable, no dots or blanks at its ends, not too long, not a
    /// device; in one Unicode form, without marks that are not seen or turn the direction of what follows.
    /// </summary>
    public static string Clean(string name)
    {
        var whole = string.Concat(name.EnumerateRunes().Where(r => r != Rune.ReplacementChar && !IsUnseen(r)));
        var text = string.Concat(UnicodeForm.Of(whole).Select(c => IsUnusable(c) ? '-' : c)).Trim(' ', '.');
        while (Encoding.UTF8.GetByteCount(text) > LongestBytes)
        {
            text = text[..^(char.IsLowSurrogate(text[^1]) ? 2 : 1)].TrimEnd(' ', '.');
        }

        if (text.Length == 0)
        {
            return "Track";
        }

        // A device is one whatever its ending.
        var dot = text.IndexOf('.', StringComparison.Ordinal);
        var stem = (dot < 0 ? text : text[..dot]).TrimEnd(' ');
        return Reserved.Contains(stem) ? stem + "-" + text[stem.Length..] : text;
    }

    /// <summary>What joins letters or pictures is seen by what it does to them.</summary>
    private static bool IsUnseen(Rune rune) => Rune.GetUnicodeCategory(rune) == UnicodeCategory.Format && rune.Value is not (Joiner or NonJoiner);
}

using System.Text;

namespace GateSplit.Core;

/// <summary>What a file name may be on every system.</summary>
public static class FileName
{
    private const int LongestBytes = 120;
    private const char Delete = '\u007F';
    private const string Signs = "<>:\"/\\|?*";
    private static readonly HashSet<string> Reserved = new(
        ["CON", "PRN", "AUX", "NUL", .. Enumerable.Range(1, 9).SelectMany(n => new[] { $"COM{n}", $"LPT{n}" })],
        StringComparer.OrdinalIgnoreCase);

    /// <summary>True of a sign that a file name cannot have on some system: what separates or stands for other names, and control characters.</summary>
    public static bool IsUnusable(char sign) => sign is < ' ' or Delete || Signs.Contains(sign, StringComparison.Ordinal);

    /// <summary>A name that every file system takes: nothing unusable, no dots or blanks at its ends, not too long, not a device.</summary>
    public static string Clean(string name)
    {
        var text = string.Concat(name.Normalize().Select(c => IsUnusable(c) ? '-' : c)).Trim(' ', '.');
        while (Encoding.UTF8.GetByteCount(text) > LongestBytes)
        {
            text = text[..^(char.IsLowSurrogate(text[^1]) ? 2 : 1)].TrimEnd(' ', '.');
        }

        return text.Length == 0 ? "Track" : Reserved.Contains(text) ? text + "-" : text;
    }
}

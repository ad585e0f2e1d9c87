using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;

namespace GateSplit.Core.Handoff;

/// <summary>SHA-256 sums of files, as `sha256sum -c` takes them: a line each, with the sum, two blanks and the path.</summary>
public static class HashList
{
    /// <summary>The file that they stand in.</summary>
    public const string FileName = "SHA256SUMS";

    private const int Digits = 2 * SHA256.HashSizeInBytes;
    private const string Between = "  ";

    /// <summary>The sum of some bytes.</summary>
    public static string Sum(ReadOnlySpan<byte> bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));

    /// <summary>Writes the list.</summary>
    public static byte[] Write(IEnumerable<(string Path, string Sum)> files) => Encoding.UTF8.GetBytes(string.Concat(files.Select(f => $"{f.Sum}{Between}{f.Path}\n")));

    /// <summary>How long a list of such paths is.</summary>
    public static int Length(IEnumerable<string> paths) => paths.Sum(p => Digits + Between.Length + Encoding.UTF8.GetByteCount(p) + 1);

    /// <summary>Reads a list.</summary>
    /// <returns>Sums by path; null where a line is none, or a path is there twice.</returns>
    public static ImmutableDictionary<string, string>? Read(string text)
    {
        var sums = ImmutableDictionary.CreateBuilder<string, string>(StringComparer.Ordinal);
        foreach (var line in text.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(l => l.TrimEnd('\r')))
        {
            // The second sign between them tells how the tool has read the file, which makes no difference.
            if (line.Length <= Digits + Between.Length || !line[..Digits].All(char.IsAsciiHexDigit) || line[Digits] != ' ' || line[Digits + 1] is not (' ' or '*') || !sums.TryAdd(line[(Digits + Between.Length)..], line[..Digits].ToLowerInvariant()))
            {
                return null;
            }
        }

        return sums.ToImmutable();
    }
}

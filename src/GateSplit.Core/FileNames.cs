using System.Collections.Immutable;
using System.Globalization;

namespace GateSplit.Core;

/// <summary>File names from a pattern of plain text and words in braces.</summary>
public static class FileNames
{
    /// <summary>The pattern a session begins with.</summary>
    public const string DefaultPattern = "{nn} {element}";

    /// <summary>The words a pattern can have, each with what stands in its place.</summary>
    public static readonly ImmutableArray<(string Word, string Meaning)> Words =
    [
        ("{nn}", "its number, in track order"),
        ("{element}", "the name of the track, group or source"),
        ("{session}", "the name of the session"),
        ("{take}", "the number of its take"),
        ("{tempo}", "quarters a minute at the start"),
    ];

    /// <summary>Names for a row of files, without ending, all different even where case does not count.</summary>
    /// <param name="pattern">Text with words in braces.</param>
    /// <param name="tracks">What the files hold, in order.</param>
    /// <param name="session">The session's name.</param>
    /// <param name="tempo">Quarters a minute at the start.</param>
    /// <param name="takes">The takes they are of; null where there is none.</param>
    public static Result<IReadOnlyList<string>> For(string pattern, IReadOnlyList<string> tracks, string session, double tempo, IReadOnlyList<string>? takes = null)
    {
        if (Pieces(pattern) is not { } pieces)
        {
            return new Refusal($"A name can be made of {GateSplit.Core.Words.List([.. Words.Select(w => w.Word)])} and plain text; this one has braces around something else.");
        }

        if (tracks.Count > 1 && !pieces.Contains("{nn}") && !pieces.Contains("{element}"))
        {
            return new Refusal("Every file would have the same name. Put {element} or {nn} into the pattern.");
        }

        var digits = Math.Max(2, tracks.Count.ToString(CultureInfo.InvariantCulture).Length);
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        var names = new List<string>();
        for (var i = 0; i < tracks.Count; i++)
        {
            var wish = FileName.Clean(string.Concat(pieces.Select(piece => piece switch
            {
                "{nn}" => (i + 1).ToString(CultureInfo.InvariantCulture).PadLeft(digits, '0'),
                "{element}" => tracks[i],
                "{session}" => session,
                "{take}" => takes?[i] ?? "1",
                "{tempo}" => tempo.ToString("0.##", CultureInfo.InvariantCulture),
                _ => piece,
            })));
            var name = wish;
            for (var n = 2; !taken.Add(name); n++)
            {
                name = $"{wish} {n}";
            }

            names.Add(name);
        }

        return names;
    }

    /// <summary>What of a pattern does not make sense, whatever files it names; null if all does.</summary>
    public static string? Trouble(string pattern) => For(pattern, ["a", "b"], "", 120) is { Ok: false } names ? names.Trouble : null;

    /// <summary>The words and the texts between them; null where there are braces around anything else. What stands in a word's place is never read again.</summary>
    private static List<string>? Pieces(string pattern)
    {
        var pieces = new List<string>();
        for (var at = 0; at < pattern.Length;)
        {
            var word = Words.Select(w => w.Word).FirstOrDefault(w => pattern.AsSpan(at).StartsWith(w, StringComparison.Ordinal));
            var piece = word ?? pattern[at..Next(at)];
            if (word is null && piece.AsSpan().ContainsAny('{', '}'))
            {
                return null;
            }

            pieces.Add(piece);
            at += piece.Length;
        }

        return pieces;

        int Next(int from) => pattern.IndexOf('{', from + 1) is > 0 and var next ? next : pattern.Length;
    }
}

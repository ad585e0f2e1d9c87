using System.Collections.Immutable;

namespace GateSplit.Core.Handoff;

/// <summary>File names from a pattern with {nn}, {element}, {session} and {tempo}.</summary>
public static class FileNames
{
    /// <summary>The pattern a session begins with.</summary>
    public const string DefaultPattern = "{nn} {element}";

    /// <summary>The fields a pattern can have.</summary>
    public static readonly ImmutableArray<string> Fields = ["{nn}", "{element}", "{session}", "{tempo}"];

    /// <summary>Names for a row of tracks, without extension, all different even where case does not count.</summary>
    /// <param name="pattern">Text with fields.</param>
    /// <param name="tracks">The tracks' names in order.</param>
    /// <param name="session">The session's name.</param>
    /// <param name="tempo">Quarters a minute at the start.</param>
    public static Result<IReadOnlyList<string>> For(string pattern, IReadOnlyList<string> tracks, string session, double tempo)
    {
        var bare = Fields.Aggregate(pattern, (text, field) => text.Replace(field, ""));
        if (bare.Contains('{') || bare.Contains('}'))
        {
            return new Refusal($"A name can be made of {Words.List(Fields)} and plain text; this one has braces around something else.");
        }

        if (tracks.Count > 1 && !pattern.Contains("{nn}") && !pattern.Contains("{element}"))
        {
            return new Refusal("Every file would have the same name. Put {element} or {nn} into the pattern.");
        }

        var digits = Math.Max(2, tracks.Count.ToString().Length);
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        var names = new List<string>();
        for (var i = 0; i < tracks.Count; i++)
        {
            var wish = FileName.Clean(pattern
                .Replace("{nn}", (i + 1).ToString().PadLeft(digits, '0'))
                .Replace("{element}", tracks[i])
                .Replace("{session}", session)
                .Replace("{tempo}", tempo.ToString("0.##")));
            var name = wish;
            for (var n = 2; !taken.Add(name); n++)
            {
                name = $"{wish} {n}";
            }

            names.Add(name);
        }

        return names;
    }
}

using System.Collections.Immutable;
using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace GateSplit.Core.Handoff;

/// <summary>Reads which channels of a recording belong to which track: comma-separated values with the header track,channels.</summary>
public static class LinesFile
{
    /// <summary>Reads it.</summary>
    /// <param name="text">For example "track,channels", "Kick,3", "Overheads,9-10".</param>
    /// <returns>Tracks with their 1-based channels, in order; or a sentence with the line number.</returns>
    public static Result<IReadOnlyList<Line>> Read(TextReader text)
    {
        using var csv = new CsvParser(text, new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            TrimOptions = TrimOptions.Trim,
            BadDataFound = null,
            IgnoreBlankLines = true,
        });
        if (!csv.Read() || !csv.Record!.SequenceEqual(["track", "channels"]))
        {
            return new Refusal("The lines file must begin with the header track,channels.");
        }

        var lines = new List<Line>();
        while (csv.Read())
        {
            var row = csv.RawRow;
            var track = csv[0];
            var wanted = csv.Count > 1 ? csv[1] : "";
            if (track.Length == 0)
            {
                return new Refusal($"Line {row} of the lines file names no track.");
            }

            if (Channels(wanted) is not { } channels)
            {
                return new Refusal($"Line {row} of the lines file gives {track} the channels \"{wanted}\"; a number such as 3 or a pair such as 9-10 is needed.");
            }

            lines.Add(new Line(track, channels));
        }

        if (lines.GroupBy(l => FileName.Clean(l.Track), StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            return new Refusal($"The lines file names {twice.Key} twice: their files cannot be told apart.");
        }

        return lines.Count == 0 ? new Refusal("The lines file names no tracks.") : lines;
    }

    private static ImmutableArray<int>? Channels(string text)
    {
        var parts = text.Split('-', StringSplitOptions.TrimEntries);
        if (parts.Length > 2 || !parts.All(p => int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out _)))
        {
            return null;
        }

        var first = int.Parse(parts[0]);
        var last = int.Parse(parts[^1]);
        return first >= 1 && last >= first && last - first < 256 ? [.. Enumerable.Range(first, last - first + 1)] : null;
    }

    /// <summary>One row.</summary>
    /// <param name="Track">The track's name.</param>
    /// <param name="Channels">1-based channels of the recording.</param>
    public sealed record Line(string Track, ImmutableArray<int> Channels);
}

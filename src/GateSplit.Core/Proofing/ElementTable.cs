using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using GateSplit.Core.Notes;

namespace GateSplit.Core.Proofing;

/// <summary>Reads which track ought to hold which notes: comma-separated values with the header track,midiChannel,keys,sounds.</summary>
public static class ElementTable
{
    /// <summary>What the columns are called.</summary>
    private static readonly string[] Header = ["track", "midiChannel", "keys", "sounds"];

    /// <summary>Reads it.</summary>
    /// <param name="text">For example "Kick,10,36,struck", "Snare,10,38 40,struck", "Bass,2,,held": no keys for all of the channel.</param>
    /// <param name="song">The notes.</param>
    /// <returns>A part for each row, in order; or a sentence with the line number.</returns>
    public static Result<IReadOnlyList<Part>> Read(TextReader text, Song song)
    {
        using var csv = new CsvParser(text, new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            TrimOptions = TrimOptions.Trim,
            BadDataFound = null,
            IgnoreBlankLines = true,
        });
        if (!csv.Read() || !csv.Record!.Select(c => c.TrimStart('\uFEFF')).SequenceEqual(Header))
        {
            return new Refusal($"The table of elements must begin with the header {string.Join(',', Header)}.");
        }

        var parts = new List<Part>();
        while (csv.Read())
        {
            var (row, cells) = (csv.RawRow, csv.Record!);
            if (cells.Length != Header.Length || cells[0].Length == 0)
            {
                return new Refusal($"Line {row} of the table of elements needs a track, a MIDI channel, keys (or nothing for all), and struck or held.");
            }

            if (!int.TryParse(cells[1], NumberStyles.None, CultureInfo.InvariantCulture, out var channel) || channel is < 1 or > 16)
            {
                return new Refusal($"Line {row} of the table of elements gives {cells[0]} the MIDI channel \"{cells[1]}\"; it is a number from 1 to 16.");
            }

            var keys = cells[2].Split([' ', ';', '/', ','], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Select(k => int.TryParse(k, NumberStyles.None, CultureInfo.InvariantCulture, out var key) && key <= 127 ? key : -1).ToList();
            if (keys.Contains(-1))
            {
                return new Refusal($"Line {row} of the table of elements gives {cells[0]} the keys \"{cells[2]}\"; they are numbers from 0 to 127 with spaces between them.");
            }

            if (cells[3] is not ("struck" or "held"))
            {
                return new Refusal($"Line {row} of the table of elements says \"{cells[3]}\" of {cells[0]}; its sounds are struck or held.");
            }

            if (parts.Exists(p => p.Name.Equals(cells[0], StringComparison.OrdinalIgnoreCase)))
            {
                return new Refusal($"The table of elements names {cells[0]} twice.");
            }

            parts.Add(Parts.Of(song, cells[0], n => n.Channel == channel && (keys.Count == 0 || keys.Contains(n.Key)), cells[3] == "held"));
        }

        return parts.Count == 0 ? new Refusal("The table of elements names no tracks.") : parts;
    }
}

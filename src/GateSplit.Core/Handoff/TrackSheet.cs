using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using GateSplit.Core.Drawing;

namespace GateSplit.Core.Handoff;

/// <summary>The track sheet: one row a file, as comma-separated values (RFC 4180).</summary>
public static class TrackSheet
{
    /// <summary>The columns, each with what it holds of a file.</summary>
    private static readonly (string Name, Func<HandoffWritten, object?> Of)[] Columns =
    [
        ("number", w => w.File.Number),
        ("kind", w => HandoffPlan.Folder(w.File.Kind)),
        ("file", w => w.File.Path),
        ("track", w => w.File.Track),
        ("take", w => w.File.Take),
        ("elements", w => w.File.Elements),
        ("source", w => w.File.Source),
        ("pass", w => w.File.Pass),
        ("groups", w => w.File.Groups),
        ("level_db", w => Number(w.File.Level?.Value, "0.00")),
        ("pan_percent", w => Number(w.File.Pan?.Percent, "0")),
        ("family", w => w.File.Family is { } family ? Glyphs.Name(family) : ""),
        ("colour", w => FamilyColours.Of(w.File.Family)),
        ("channels", w => w.File.Format.Channels),
        ("sample_rate", w => w.File.Format.SampleRate.Hz),
        ("bits", w => w.File.Format.WidthName),
        ("frames", w => w.File.Frames.Count),
        ("seconds", w => Number(w.File.Frames.Seconds(w.File.Format.SampleRate), "0.000")),
        ("time_reference", w => w.File.Recipe.Start.Count),
        ("sample_peak_dbfs", w => Number(w.File.Levels?.SamplePeakDbfs?.Value, "0.00")),
        ("true_peak_dbtp", w => Number(w.File.Levels?.TruePeakDbtp?.Value, "0.00")),
        ("rms_dbfs", w => Number(w.File.Levels?.RmsDbfs?.Value, "0.00")),
        ("integrated_lufs", w => Number(w.File.Levels?.Loudness.Integrated, "0.00")),
        ("loudness_range_lu", w => Number(w.File.Levels?.Loudness.Range, "0.00")),
        ("clipped_runs", w => w.File.Levels?.ClippedRuns),
        ("full_scale_samples", w => w.File.Levels?.FullScale?.Count),
        ("mended", w => w.File.Mended ? "yes" : "no"),
        ("verdict", w => w.File.Verdict),
        ("remark", w => w.File.Remark),
        ("sha256", w => w.Sha256),
    ];

    /// <summary>Writes it.</summary>
    public static string Write(IEnumerable<HandoffWritten> files)
    {
        using var text = new StringWriter();
        using (var csv = new CsvWriter(text, new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n" }))
        {
            foreach (var (name, _) in Columns)
            {
                csv.WriteField(name);
            }

            csv.NextRecord();
            foreach (var file in files)
            {
                foreach (var (_, of) in Columns)
                {
                    csv.WriteField(of(file) is string words ? Text(words) : of(file));
                }

                csv.NextRecord();
            }
        }

        return text.ToString();
    }

    private static object? Number(double? value, string shape) => value is { } known && double.IsFinite(known) ? new Plain(known.ToString(shape, CultureInfo.InvariantCulture)) : null;

    /// <summary>A table program takes what begins with one of these for something to work out; behind an apostrophe it is text.</summary>
    private static string Text(string value) => value is ['=' or '+' or '-' or '@' or '\t' or '\r', ..] ? "'" + value : value;

    /// <summary>A number as it is written.</summary>
    private sealed record Plain(string Value)
    {
        public override string ToString() => Value;
    }
}

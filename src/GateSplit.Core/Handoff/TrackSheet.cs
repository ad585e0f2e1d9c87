using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace GateSplit.Core.Handoff;

/// <summary>The track sheet: one row a file, as comma-separated values (RFC 4180).</summary>
public static class TrackSheet
{
    private static readonly string[] Header =
        ["number", "file", "track", "elements", "source", "channels", "sample_rate", "bits", "frames", "seconds", "sample_peak_dbfs", "rms_dbfs", "clipped_runs", "full_scale_samples", "mended"];

    /// <summary>Writes it.</summary>
    public static string Write(IEnumerable<HandoffTrack> tracks)
    {
        using var text = new StringWriter();
        using (var csv = new CsvWriter(text, new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n" }))
        {
            foreach (var name in Header)
            {
                csv.WriteField(name);
            }

            csv.NextRecord();
            foreach (var track in tracks)
            {
                csv.WriteField(track.Number);
                csv.WriteField(Text(track.File));
                csv.WriteField(Text(track.Track));
                csv.WriteField(Text(track.Elements));
                csv.WriteField(Text(track.Source));
                csv.WriteField(track.Format.Channels);
                csv.WriteField(track.Format.SampleRate.Hz);
                csv.WriteField(track.Format.WidthName);
                csv.WriteField(track.Frames.Count);
                csv.WriteField(track.Frames.Seconds(track.Format.SampleRate).ToString("0.000"));
                csv.WriteField(track.SamplePeakDbfs?.Value.ToString("0.00"));
                csv.WriteField(track.RmsDbfs?.Value.ToString("0.00"));
                csv.WriteField(track.ClippedRuns);
                csv.WriteField(track.FullScale?.Count);
                csv.WriteField(track.Mended ? "yes" : "no");
                csv.NextRecord();
            }
        }

        return text.ToString();
    }

    /// <summary>A table program takes what begins with one of these for something to work out; behind an apostrophe it is text.</summary>
    private static string Text(string value) => value is ['=' or '+' or '-' or '@' or '\t' or '\r', ..] ? "'" + value : value;
}

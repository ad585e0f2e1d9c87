using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;

namespace GateSplit.Tests.Shared;

/// <summary>Loudness as ffmpeg's filter of that name measures it.</summary>
public sealed record Ebur128(double Integrated, double TruePeak)
{
    /// <summary>Measures a file.</summary>
    public static Ebur128 Of(string path)
    {
        var start = new ProcessStartInfo("ffmpeg", ["-hide_banner", "-nostats", "-nostdin", "-i", path, "-filter:a", "ebur128=peak=true:framelog=verbose", "-f", "null", "-"]) { RedirectStandardError = true, UseShellExecute = false };
        using var process = Process.Start(start)!;
        var text = process.StandardError.ReadToEnd();
        process.WaitForExit();
        double Read(string what) => double.Parse(Regex.Match(text[text.LastIndexOf("Summary:", StringComparison.Ordinal)..], what + @":\s+(-?[\d.]+|-inf)", RegexOptions.None, TimeSpan.FromSeconds(1)).Groups[1].Value, CultureInfo.InvariantCulture);
        return new(Read("I"), Read("Peak"));
    }
}

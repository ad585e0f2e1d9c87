using System.CommandLine;
using System.Text.Json;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Cli;

/// <summary>Measures files.</summary>
internal static class MeasureCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var files = new Argument<FileInfo[]>("file") { Arity = ArgumentArity.OneOrMore, Description = "WAVE, RF64, AIFF, FLAC, CAF or Wave64 files." };
        var json = new Option<bool>("--json") { Description = "Print an array of JSON objects." };
        var command = new Command("measure", "Measure loudness, and peak, true peak, RMS, floor, DC, clips and silence of every channel.") { files, json };
        command.SetAction((parsed, cancel) => Task.FromResult(Guarded.Run(() =>
            Run(parsed.GetValue(files)!, parsed.GetValue(json), cancel))));
        return command;
    }

    private const int PlacesShown = 5;

    private static int Run(FileInfo[] files, bool json, CancellationToken cancel)
    {
        // As many at once as there are cores; what is said of them stays in their order.
        var told = new (Row? Row, IReadOnlyList<string> Remarks, string? Trouble)[files.Length];
        var (shares, all) = (new double[files.Length], new ConsoleProgress());
        using (all)
        {
            Parallel.For(0, files.Length, new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount }, i =>
                told[i] = Measured(files[i], new Progress(share =>
                {
                    lock (shares)
                    {
                        shares[i] = share;
                        ((IProgress<double>)all).Report(shares.Average());
                    }
                }), cancel));
        }

        var code = ExitCodes.Good;
        foreach (var (file, (_, remarks, trouble)) in files.Zip(told))
        {
            code = trouble is null ? code : Guarded.Refuse($"{file.Name}: {trouble}");
            foreach (var remark in remarks)
            {
                Console.Error.WriteLine($"gatesplit: {file.Name}: {remark}");
            }
        }

        var measured = told.Select(t => t.Row).OfType<Row>().ToList();
        Console.Out.WriteLine(json ? JsonSerializer.Serialize(measured, SplitJson.Options) : string.Join('\n', measured.Select(r => r.ToText())));
        return code;
    }

    private static (Row? Row, IReadOnlyList<string> Remarks, string? Trouble) Measured(FileInfo file, IProgress<double> progress, CancellationToken cancel)
    {
        var opened = Recording.Open(file, Path.GetTempPath(), cancel);
        if (!opened.Ok)
        {
            return (null, [], opened.Trouble);
        }

        using var open = opened.Value;
        var levels = FileLevels.Of(open.Wave, progress, cancel);
        return (Row.Of(file, levels), [.. open.Remarks.Union(levels.Remarks)], null);
    }

    /// <summary>Tells at once how far one file is.</summary>
    private sealed class Progress(Action<double> tell) : IProgress<double>
    {
        public void Report(double value) => tell(value);
    }

    private sealed record Row(
        string File,
        int Channels,
        int SampleRate,
        int BitsPerSample,
        Frames Frames,
        double? IntegratedLufs,
        double? LoudnessRangeLu,
        double? MaxMomentaryLufs,
        double? MaxShortTermLufs,
        IReadOnlyList<ChannelRow> PerChannel)
    {
        public static Row Of(FileInfo file, FileLevels measure) => new(
            file.ToString(),
            measure.Format.Channels,
            measure.Format.SampleRate.Hz,
            measure.Format.BitsPerSample,
            measure.Frames,
            measure.Loudness.Integrated,
            measure.Loudness.Range,
            measure.Loudness.MaxMomentary,
            measure.Loudness.MaxShortTerm,
            [
                .. measure.Channels.Select((c, i) => new ChannelRow(
                    Finite(c.SamplePeak), Finite(measure.TruePeaks[i]), Finite(c.Rms), measure.Floors[i] is { } floor ? Finite(floor) : null, c.DcOffset, c.ClippedRuns, c.Runs, c.FullScale, c.Silent)),
            ]);

        public string ToText() =>
            $"{File}: {Channels} ch, {SampleRate} Hz, {BitsPerSample} bit, {Frames} frames{Loud()}"
            + string.Concat(PerChannel.Select((c, i) =>
                $"\n  {i + 1,3}  peak {Text(c.SamplePeakDbfs)}  true peak {Text(c.TruePeakDbtp, "dBTP")}  rms {Text(c.RmsDbfs)}  dc {c.DcOffset:0.000000}  clipped runs {c.ClippedRuns}{Places(c)}  at full scale {c.FullScale}{(c.Silent ? "  silent" : "")}"));

        /// <summary>Where the first clips are; all that are known are in the JSON.</summary>
        private static string Places(ChannelRow channel) => channel.ClippedRuns == 0
            ? ""
            : $" ({string.Join(", ", channel.Clips.Take(PlacesShown).Select(c => $"frame {c.StartFrame} for {c.Length}"))}{(channel.ClippedRuns > PlacesShown ? ", ..." : "")})";

        private string Loud() => IntegratedLufs is { } loud ? $"\n       {loud:0.0} LUFS{(LoudnessRangeLu is { } range ? $", range {range:0.0} LU" : "")}" : "";

        private static string Text(Decibels? level, string unit = "dBFS") => level is { Value: var value } ? $"{value,7:0.00} {unit}" : $"   -inf {unit}";

        /// <summary>JSON has no infinity: digital silence is null.</summary>
        private static Decibels? Finite(Decibels level) => level > Decibels.Silence ? level : null;
    }

    private sealed record ChannelRow(
        Decibels? SamplePeakDbfs, Decibels? TruePeakDbtp, Decibels? RmsDbfs, Decibels? FloorDbfs, double DcOffset, long ClippedRuns, IReadOnlyList<ClipRun> Clips, Frames FullScale, bool Silent);
}

using System.CommandLine;
using System.Text.Json;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Cli;

/// <summary>Compares two recordings of one thing.</summary>
internal static class CompareCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var first = new Argument<FileInfo>("first") { Description = "What the second is compared with." };
        var second = new Argument<FileInfo>("second") { Description = "Another recording of the same." };
        var json = new Option<bool>("--json") { Description = "Print a JSON object." };
        var command = new Command("compare", "Say how much later, slower, louder a second recording is, whether it is upside down, and what is left when that is undone.") { first, second, json };
        command.SetAction((parsed, cancel) => Task.FromResult(Guarded.Run(() => Run(parsed.GetValue(first)!, parsed.GetValue(second)!, parsed.GetValue(json), cancel))));
        return command;
    }

    private static int Run(FileInfo first, FileInfo second, bool json, CancellationToken cancel)
    {
        var (one, other) = (Recording.Open(first, Path.GetTempPath(), cancel), Recording.Open(second, Path.GetTempPath(), cancel));
        using var firstOpen = one.Value;
        using var secondOpen = other.Value;
        if (firstOpen is null || secondOpen is null)
        {
            return Guarded.Refuse(one.Ok ? $"{second.Name}: {other.Trouble}" : $"{first.Name}: {one.Trouble}");
        }

        var (rate, otherRate) = (firstOpen.Wave.Format.SampleRate, secondOpen.Wave.Format.SampleRate);
        if (rate != otherRate)
        {
            return Guarded.Refuse($"{first.Name} has {rate} and {second.Name} {otherRate}: bring one of them to the rate of the other first.");
        }

        foreach (var (file, remark) in firstOpen.Remarks.Select(r => (first, r)).Concat(secondOpen.Remarks.Select(r => (second, r))))
        {
            Console.Error.WriteLine($"gatesplit: {file.Name}: {remark}");
        }

        var found = Comparison.Of(new MonoReader(firstOpen.Wave), new MonoReader(secondOpen.Wave), cancel);
        Console.Out.WriteLine(json ? JsonSerializer.Serialize(Row.Of(found), SplitJson.Options) : Text(found, first, second, rate));
        return ExitCodes.Good;
    }

    private static string Text(Comparison? found, FileInfo first, FileInfo second, SampleRate rate) => found is null
        ? $"{first.Name} and {second.Name} have nothing in common that could be found."
        : $"{second.Name} is {Math.Abs(found.OffsetFrames):0.00} samples ({Math.Abs(found.OffsetFrames) * 1000 / rate.Hz:0.00} ms) {(found.OffsetFrames < 0 ? "earlier" : "later")} than {first.Name}, "
            + $"runs {Math.Abs(found.DriftPpm):0.00} ppm {(found.DriftPpm < 0 ? "fast" : "slow")}, is {found.Gain} {(found.Polarity < 0 ? "and upside down" : "and upright")}; what is left is {found.Residual}.";

    private sealed record Row(double? OffsetSamples, double? DriftPpm, Decibels? GainDb, int? Polarity, Decibels? ResidualDb, bool Found)
    {
        public static Row Of(Comparison? found) => found is null
            ? new(null, null, null, null, null, false)
            : new(found.OffsetFrames, found.DriftPpm, found.Gain, found.Polarity, found.Residual > Decibels.Silence ? found.Residual : null, true);
    }
}

using System.CommandLine;
using System.Globalization;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Cli;

/// <summary>Puts the files of a take into the time of a reference.</summary>
internal static class AlignCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var folder = new Argument<DirectoryInfo>("folder") { Description = "The folder with the files of the take, which begin together." };
        var to = new Option<FileInfo>("--to") { Description = "The reference: a recording of all of them together, such as the main mix.", Required = true };
        var target = new Option<DirectoryInfo>("--out") { Description = "The folder for the aligned files.", Required = true };
        var command = new Command("align", "Move the files of a take together, and undo their drift, so that they lie where a reference lies. The files themselves are not changed.") { folder, to, target };
        command.SetAction((parsed, cancel) => Task.FromResult(Guarded.Run(() => Run(parsed.GetValue(folder)!, parsed.GetValue(to)!, parsed.GetValue(target)!, cancel))));
        return command;
    }

    private static int Run(DirectoryInfo folder, FileInfo reference, DirectoryInfo target, CancellationToken cancel)
    {
        if (Path.TrimEndingDirectorySeparator(target.FullName) == Path.TrimEndingDirectorySeparator(folder.FullName))
        {
            return Guarded.Refuse("The aligned files need another folder: the recordings are left as they are.");
        }

        using var recordings = Recordings.Of(folder, reference, cancel);
        if (recordings.Trouble is { } trouble)
        {
            return Guarded.Refuse(trouble);
        }

        foreach (var (name, remark) in recordings.Remarks)
        {
            Console.Error.WriteLine($"gatesplit: {name}: {remark}");
        }

        var rate = recordings.Reference!.Wave.Format.SampleRate;
        if (recordings.Files.FirstOrDefault(f => f.Recording.Wave.Format.SampleRate != rate) is { File: { } other, Recording: { } odd })
        {
            return Guarded.Refuse($"{reference.Name} has {rate} and {other.Name} {odd.Wave.Format.SampleRate}: bring them to one rate first.");
        }

        var sum = new MonoSum([.. recordings.Files.Select(f => ((IMonoSound)new MonoReader(f.Recording.Wave), 1f))]);
        if (Comparison.Aligned(new MonoReader(recordings.Reference.Wave), sum, cancel: cancel) is not var (start, slope, _))
        {
            return Guarded.Refuse($"{reference.Name} and the files in {folder.Name} have nothing in common that could be found.");
        }

        target.Create();
        using var progress = new ConsoleProgress();
        foreach (var (file, name, recording) in recordings.Files)
        {
            var frames = new Frames(Math.Max(0, (long)Math.Round((recording.Wave.Frames.Count - start) / (1 + slope))));
            var plan = RenderPlan.AsItIs(recording.Wave.Format.Channels, frames) with { Start = start, Step = 1 + slope };
            TakeRenderer.Render(recording.Wave, plan, Path.Combine(target.FullName, $"{name}.wav"), null, progress, cancel);
        }

        Console.Out.WriteLine(string.Create(
            CultureInfo.InvariantCulture,
            $"{recordings.Files.Count} files were {Math.Abs(start):0.00} samples ({Math.Abs(start) * 1000 / rate.Hz:0.00} ms) {(start < 0 ? "early" : "late")} and {Math.Abs(slope) * 1e6:0.00} ppm {(slope < 0 ? "fast" : "slow")}: put right in {target.Name}."));
        return ExitCodes.Good;
    }
}

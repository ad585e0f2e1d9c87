using System.CommandLine;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Cli;

/// <summary>Cuts a many-channel recording into one file a track.</summary>
internal static class CutCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var recording = new Argument<FileInfo>("recording") { Description = "The file with all channels: WAVE, RF64, AIFF, FLAC, CAF or Wave64." };
        var lines = new Option<FileInfo>("--lines") { Description = "Comma-separated values with the header track,channels.", Required = true };
        var folder = new Option<DirectoryInfo>("--out") { Description = "The folder for the files; made if missing.", Required = true };
        var command = new Command("cut", "Cut a many-channel recording into one file a track, bit-exactly.") { recording, lines, folder };
        command.SetAction((parsed, cancel) => Task.FromResult(Guarded.Run(() =>
            Run(parsed.GetValue(recording)!, parsed.GetValue(lines)!, parsed.GetValue(folder)!, cancel))));
        return command;
    }

    private static int Run(FileInfo recording, FileInfo linesFile, DirectoryInfo folder, CancellationToken cancel)
    {
        using var text = linesFile.OpenText();
        var lines = LinesFile.Read(text);
        if (!lines.Ok)
        {
            return Guarded.Refuse(lines.Trouble);
        }

        folder.Create();
        var opened = Recording.Open(recording, folder.FullName, cancel);
        if (!opened.Ok)
        {
            return Guarded.Refuse($"{recording.Name}: {opened.Trouble}");
        }

        using var open = opened.Value;
        foreach (var remark in open.Remarks.Concat(FileMeasure.NotNumbers(NotNumbers(open.Wave, cancel))))
        {
            Console.Error.WriteLine($"gatesplit: {recording.Name}: {remark}");
        }

        var cuts = lines.Value
            .Select(l => new CutLine(l.Track, l.Channels, Path.Combine(folder.FullName, FileName.Clean(l.Track) + ".wav")))
            .ToList();
        using var progress = new ConsoleProgress();
        var trouble = ChannelCutter.Cut(open.Wave, cuts, _ => null, Environment.ProcessorCount, progress, cancel);
        return trouble is null ? ExitCodes.Good : Guarded.Refuse(trouble);
    }

    /// <summary>Samples that are no numbers are cut bit by bit like all others, and told.</summary>
    private static long NotNumbers(WaveReader wave, CancellationToken cancel)
    {
        const int blockFrames = 8192;
        var (bytes, samples, count) = (new byte[blockFrames * wave.Format.BytesPerFrame], new float[blockFrames], 0L);
        for (Frames at = 0; wave.Format.IsFloat && wave.Read(at, bytes) is > 0 and var frames; at += frames)
        {
            cancel.ThrowIfCancellationRequested();
            for (var channel = 0; channel < wave.Format.Channels; channel++)
            {
                count += SampleCodec.Decode(bytes, wave.Format, channel, samples.AsSpan(0, frames));
            }
        }

        return count;
    }
}

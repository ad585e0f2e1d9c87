using System.CommandLine;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Sound;

namespace GateSplit.Cli;

/// <summary>Cuts a many-channel recording into one file a track.</summary>
internal static class CutCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var recording = new Argument<FileInfo>("recording") { Description = "The WAVE file with all channels." };
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

        var opened = WaveReader.Open(recording.FullName);
        if (!opened.Ok)
        {
            return Guarded.Refuse($"{recording.Name}: {opened.Trouble}");
        }

        using var reader = opened.Value;
        foreach (var remark in reader.Remarks)
        {
            Console.Error.WriteLine($"gatesplit: {recording.Name}: {remark}");
        }

        folder.Create();
        var cuts = lines.Value
            .Select(l => new CutLine(l.Track, l.Channels, Path.Combine(folder.FullName, FileName.Clean(l.Track) + ".wav")))
            .ToList();
        using var progress = new ConsoleProgress();
        var trouble = ChannelCutter.Cut(reader, cuts, _ => null, Environment.ProcessorCount, progress, cancel);
        return trouble is null ? ExitCodes.Good : Guarded.Refuse(trouble);
    }
}

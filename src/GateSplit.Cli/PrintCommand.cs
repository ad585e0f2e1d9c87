using System.CommandLine;
using GateSplit.Core;
using GateSplit.Core.Checks;
using GateSplit.Core.StandIns;

namespace GateSplit.Cli;

/// <summary>Prints an exported session on the stand-ins.</summary>
internal static class PrintCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var session = new Argument<FileInfo>("session") { Description = "An exported session." };
        var folder = new Option<DirectoryInfo>("--out") { Description = "The folder for the files; made if missing.", Required = true };
        var threads = new Option<int>("--threads") { Description = "Threads to work with.", DefaultValueFactory = _ => Environment.ProcessorCount };
        var command = new Command("print", "Print an exported session on the stand-ins, one file for each armed track.") { session, folder, threads };
        command.SetAction((parsed, cancel) => Task.FromResult(Guarded.Run(() =>
            Run(parsed.GetValue(session)!, parsed.GetValue(folder)!, parsed.GetValue(threads), cancel))));
        return command;
    }

    private static int Run(FileInfo file, DirectoryInfo folder, int threads, CancellationToken cancel)
    {
        var session = SessionArgument.Open(file);
        if (!session.Ok)
        {
            return Guarded.Refuse(session.Trouble);
        }

        var view = SessionArgument.View(session.Value);
        var recorder = new StandInRecorder(view, session.Value.Song) { Threads = Math.Max(1, threads) };
        if (recorder.Refusal() is { } refusal)
        {
            return Guarded.Refuse(refusal);
        }

        foreach (var finding in AllChecks.Look(view).Where(f => f.ToMend))
        {
            Console.Error.WriteLine($"gatesplit: {finding.Sentence}");
        }

        var armed = view.ArmedTracks.ToList();
        var names = FileNames.For(
            FileNames.DefaultPattern, [.. armed.Select(t => t.Name)], session.Value.File.Name, session.Value.Song.Tempos.StartTempo);
        var paths = armed.Zip(names.Value!).ToDictionary(p => p.First.Id, p => Path.Combine(folder.FullName, p.Second + ".wav"));
        folder.Create();
        using var progress = new ConsoleProgress();
        var printed = recorder.Print(t => paths[t.Id], DateTime.Now, progress, cancel);
        foreach (var track in printed)
        {
            Console.Out.WriteLine(track.Path);
        }

        return ExitCodes.Good;
    }
}

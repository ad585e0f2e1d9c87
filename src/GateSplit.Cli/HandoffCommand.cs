using System.CommandLine;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;

namespace GateSplit.Cli;

/// <summary>Hands off an exported session into a folder, made as the page would make it.</summary>
internal static class HandoffCommand
{
    private const string Recorded = ".recorded";
    private static readonly string[] Kinds = [.. HandoffFormat.All.Select(f => f.Value)];

    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var session = new Argument<FileInfo>("session") { Description = "An exported session: one without audio is printed on the stand-ins, of one with its takes those are handed off." };
        var folder = new Option<DirectoryInfo>("--out") { Description = "The folder for the handoff; made if missing, else empty.", Required = true };
        var format = new Option<string>("--format") { Description = $"How the files are stored: {string.Join(", ", Kinds)}.", DefaultValueFactory = _ => HandoffFormat.AsPrinted.Value };
        format.AcceptOnlyFromAmong(Kinds);
        var rate = new Option<int?>("--rate") { Description = "Their sample rate; that of the session where none is given." };
        var from = new Option<int?>("--from") { Description = "The first bar." };
        var to = new Option<int?>("--to") { Description = "The last bar." };
        var names = new Option<string>("--names") { Description = $"What they are called, of {string.Join(", ", FileNames.Words.Select(w => w.Word))} and plain text.", DefaultValueFactory = _ => FileNames.DefaultPattern };
        var stems = new Option<bool>("--stems") { Description = "The groups that sum as files too." };
        var flat = new Option<bool>("--flat") { Description = "Sums of the lines as they were recorded, without levels and pans." };
        var command = new Command("handoff", "Hand an exported session off into a folder.") { session, folder, format, rate, from, to, names, stems, flat };
        command.SetAction((parsed, cancel) => Task.FromResult(Guarded.Run(() => Run(
            parsed.GetValue(session)!,
            parsed.GetValue(folder)!,
            new HandoffWish
            {
                Format = parsed.GetValue(format)!,
                SampleRate = parsed.GetValue(rate) is { } hz ? (SampleRate)hz : null,
                FromBar = parsed.GetValue(from),
                ToBar = parsed.GetValue(to),
                Pattern = parsed.GetValue(names)!,
                Stems = parsed.GetValue(flat) ? StemLevels.Flat : StemLevels.Mixed,
            },
            parsed.GetValue(stems),
            cancel))));
        return command;
    }

    private static int Run(FileInfo file, DirectoryInfo folder, HandoffWish wish, bool stems, CancellationToken cancel)
    {
        if (wish.SampleRate is { } rate && !PassSettings.SampleRates.Contains(rate))
        {
            return Guarded.Refuse($"The sample rate is one of {string.Join(", ", PassSettings.SampleRates.Select(r => r.Hz))}.");
        }

        if (folder.Exists && folder.EnumerateFileSystemInfos().Any())
        {
            return Guarded.Refuse($"{folder} is not empty. A handoff goes into a folder of its own.");
        }

        var recorded = new DirectoryInfo(Path.Combine(folder.FullName, Recorded));
        var (made, wasThere) = (DateTime.Now, folder.Exists);
        try
        {
            var material = TakenOut(file, recorded, cancel) ?? Printed(file, recorded, made, cancel);
            return material.Ok ? Make(material.Value, wish, stems, folder.FullName, recorded.FullName, made, cancel) : Guarded.Refuse(material.Trouble);
        }
        finally
        {
            if (recorded.Exists)
            {
                recorded.Delete(recursive: true);
            }

            if (!wasThere && Directory.Exists(folder.FullName) && !Directory.EnumerateFileSystemEntries(folder.FullName).Any())
            {
                folder.Delete();
            }
        }
    }

    /// <summary>A session without audio is printed on the stand-ins first.</summary>
    private static Result<HandoffMaterial> Printed(FileInfo file, DirectoryInfo recorded, DateTime made, CancellationToken cancel)
    {
        var session = SessionArgument.Open(file);
        if (!session.Ok)
        {
            return new Refusal(session.Trouble);
        }

        var view = SessionArgument.View(session.Value);
        var recorder = new StandInRecorder(view, session.Value.Song) { Threads = Environment.ProcessorCount };
        if (recorder.Refusal() is { } refusal)
        {
            return new Refusal(refusal);
        }

        recorded.Create();
        using var progress = new ConsoleProgress();
        var printed = recorder.Print(t => Path.Combine(recorded.FullName, $"{t.Id}.wav"), made, progress, cancel);
        var take = new HandoffTake(1, true, made, "", view, session.Value.Song, session.Value.File.Song);
        return new HandoffMaterial(session.Value.File.Name, view.Split, [.. printed.Select(p => Line(p, take))], []);
    }

    /// <summary>A session with its takes is handed off from those: of each line the one that counts.</summary>
    /// <returns>Null for a session that has none.</returns>
    private static Result<HandoffMaterial>? TakenOut(FileInfo file, DirectoryInfo recorded, CancellationToken cancel)
    {
        if (!BundleReader.IsZip(file.FullName))
        {
            return null;
        }

        var opened = BundleReader.Open(file.FullName);
        if (!opened.Ok)
        {
            return new Refusal(opened.Trouble);
        }

        using var bundle = opened.Value;
        if (bundle.Tracks.IsEmpty)
        {
            return null;
        }

        recorded.Create();
        using var progress = new ConsoleProgress();
        var stored = new Dictionary<BundledTrack, BundleMaterial.Stored>(ReferenceEqualityComparer.Instance);
        foreach (var (_, track) in bundle.Tracks)
        {
            var name = $"{stored.Count}.wav";
            var path = Path.Combine(recorded.FullName, name);
            if (bundle.TakeOut(track, path, cancel) is { } trouble)
            {
                return new Refusal(trouble);
            }

            using var wave = WaveReader.Open(path).Value!;
            stored[track] = new(name, wave.Format, wave.Frames, wave.Remarks);
            progress.Report((double)stored.Count / bundle.Tracks.Length);
        }

        return BundleMaterial.Of(bundle, stored);
    }

    private static HandoffLine Line(PrintedTrack printed, HandoffTake take)
    {
        var (format, frames) = (printed.Measure.Format, printed.Measure.Frames);
        return new HandoffLine(printed.Track.Id, printed.Track.Title, take, take.View.SourceOf(printed.Track), Path.GetFileName(printed.Path), format, frames, RenderPlan.AsItIs(format.Channels, frames), false)
        {
            Pass = printed.Track.Pass,
        };
    }

    private static int Make(HandoffMaterial material, HandoffWish wish, bool stems, string folder, string recorded, DateTime made, CancellationToken cancel)
    {
        var plan = HandoffPlan.Of(material, wish, made);
        if (plan.Ok && stems)
        {
            var keys = plan.Value.Offered.Where(f => f.Kind == HandoffKind.Stem).Concat(plan.Value.Files).Select(f => f.Key).Distinct();
            plan = HandoffPlan.Of(material, wish with { Files = [.. keys] }, made);
        }

        if (!plan.Ok)
        {
            return Guarded.Refuse(plan.Trouble);
        }

        foreach (var told in plan.Value.Told)
        {
            Console.Error.WriteLine($"gatesplit: {told}");
        }

        var maker = new HandoffMaker(audio => Path.Combine(recorded, audio), recorded);
        var files = maker.Measured(plan.Value.Files, null, cancel);
        var target = new FolderTarget(folder);
        var written = maker.WriteAll(files, target, null, cancel).GetAwaiter().GetResult();
        foreach (var paper in HandoffPapers.Of(material, written, made))
        {
            target.Write(paper.Path, to => to.WriteAsync(paper.Body, cancel).AsTask(), cancel).GetAwaiter().GetResult();
        }

        foreach (var file in written)
        {
            Console.Out.WriteLine(Path.Combine(folder, file.File.Path));
        }

        return ExitCodes.Good;
    }
}

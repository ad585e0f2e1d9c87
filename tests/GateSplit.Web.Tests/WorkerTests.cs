using System.Collections.Immutable;
using AngleSharp.Dom;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.Sound;
using GateSplit.Data;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Web.Tests;

/// <summary>Two processes that share the database and the audio store.</summary>
public sealed class WorkerTests
{
    /// <summary>How often a worker is killed; more often where somebody asks for it.</summary>
    private static int Kills => int.TryParse(Environment.GetEnvironmentVariable("GATESPLIT_KILLS"), out var kills) ? kills : 1;

    [Fact]
    public async Task Two_workers_print_two_passes_at_once_and_one_takes_over_from_another_that_is_killed()
    {
        await using var one = await TestApp.Start(demo: false);
        await using var two = await TestApp.Start(demo: false, one.Folder, _ => one.ConnectionString);
        await using var database = Database.Open(one.ConnectionString);
        var sessions = new SessionStore(database);
        var takes = new TakeStore(database);
        var jobs = new JobStore(database);
        var boat = ReliefBoat.Session;
        var split = boat.Split with { Pass = boat.Split.Pass with { LengthBars = 128, SampleRate = 96000, SettleLoops = 0, Looped = false, TailSeconds = 0.5 } };
        var session = await sessions.Create("Boat", MidiWriter.Write(FourTimes(boat.Song)), split);
        using var visitor = new Visitor(one);
        var path = $"/sessions/{session}/print";
        await StartOnBoth();
        await visitor.WaitFor(path, IsPrinted, "both passes are there");
        var undisturbed = Samples(one, (await takes.Of(session))[0]);

        for (var kill = 0; kill < Kills; kill++)
        {
            var before = await StartOnBoth();
            await Task.Delay(Random.Shared.Next(1200));
            two.Kill();
            await visitor.WaitFor(path, IsPrinted, "the pass is taken over and done");
            var all = await takes.Of(session);
            Assert.Equal(before + 1, all.Count); // nothing lost, nothing doubled
            Assert.Equal(undisturbed, Samples(one, all[0]));
            await Waiting.Until(() => Task.FromResult(!Directory.EnumerateDirectories(Path.Combine(one.Folder, "audio/staging")).Any()), "nothing half-written is left");
            await two.Launch(demo: false);
        }

        bool IsPrinted(IDocument page) => page.QuerySelectorAll(".take-track").Length == 8 && page.QuerySelector("#job") is null;

        // Until both record, each its pass; one that has just been started may come too late, and the other has done both. Gives
        // the number of takes before.
        async Task<int> StartOnBoth()
        {
            while (true)
            {
                var before = (await takes.Of(session)).Count;
                await visitor.Get(path);
                await visitor.Send("#start");
                await Waiting.Until(async () => (await Running(database)).Distinct().Count() == 2 || (await jobs.Current(session)).Count == 0, "both workers record, or all is done");
                if ((await jobs.Current(session)).Count > 0)
                {
                    return before;
                }
            }
        }
    }

    /// <summary>The same music four times over, so that a pass lasts long enough to be killed.</summary>
    private static MidiFile FourTimes(MidiFile file)
    {
        var end = file.Tracks.Max(t => t[^1].Tick);
        return file with
        {
            Tracks =
            [
                .. file.Tracks.Select(track => track[..^1]
                    .Concat(Enumerable.Range(1, 3).SelectMany(round => track.Where(e => e.IsNoteOn || e.IsNoteOff).Select(e => e with { Tick = e.Tick + end * round })))
                    .Append(MidiEvent.Meta(end * 4, MidiFile.EndOfTrack))
                    .ToImmutableArray()),
            ],
        };
    }

    [Fact]
    public async Task Some_lines_are_printed_again_and_the_better_take_is_chosen()
    {
        await using var app = await TestApp.Start(demo: false);
        await using var database = Database.Open(app.ConnectionString);
        var lamp = LampLit.Session;
        var session = await new SessionStore(database).Create("Lamp", MidiWriter.Write(lamp.Song), lamp.Split with { Pass = lamp.Split.Pass with { LengthBars = 2 } });
        using var visitor = new Visitor(app);
        var path = $"/sessions/{session}/print";
        await visitor.Get(path);
        await visitor.Send("#start");
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 12, "the first take is there");
        await visitor.Send("#start", new Dictionary<string, string> { ["tracks"] = "t3" });
        await visitor.WaitFor(path, p => p.QuerySelector("#takes-title")!.TextContent == "Take 2" && p.QuerySelectorAll(".take-track").Length == 1, "the line is there again");

        await visitor.Get($"{path}?show=chosen");
        Assert.Equal(12, visitor.Page.QuerySelectorAll(".take-track").Length);
        Assert.Contains("take 2 of 2", visitor.Text);
        await visitor.Get($"{path}?line=t3");
        Assert.Equal(["take 2", "take 1"], visitor.Page.QuerySelectorAll(".take-name").Select(n => n.TextContent.Trim()));
        await visitor.Send("form[action*='handler=Choose']");
        Assert.Equal("take 1", visitor.Page.QuerySelector(".take-track:has(.counts) .take-name")!.TextContent.Trim());
        await visitor.Send("form[action*='handler=Remark']", new Dictionary<string, string> { ["remark"] = "rushed" });
        Assert.Equal("rushed", visitor.Page.QuerySelector("input[name='remark']")!.GetAttribute("value"));

        // What counts is handed off: eleven lines and the first take of the third.
        await visitor.Get($"/sessions/{session}/handoff?take=0");
        Assert.Equal(12, visitor.Page.QuerySelectorAll("[data-file^='line:']").Length);
        Assert.Equal("1", visitor.Page.QuerySelector("[data-file='line:t3'] select option[selected]")!.GetAttribute("value"));
        var notes = await visitor.Bytes($"{path}?handler=Notes&of=1");
        Assert.Equal("MThd"u8.ToArray(), notes[..4]);
    }

    private static async Task<List<string>> Running(NpgsqlDataSource database)
    {
        await using var command = database.CreateCommand("select worker from jobs where state = 'running' and share > 0 order by id");
        await using var reader = await command.ExecuteReaderAsync();
        var workers = new List<string>();
        while (await reader.ReadAsync())
        {
            workers.Add(reader.GetString(0));
        }

        return workers;
    }

    private static List<string> Samples(TestApp app, Take take) =>
    [
        .. take.Tracks.Select(t =>
        {
            using var file = WaveReader.Open(new FolderAudioStore(Path.Combine(app.Folder, "audio")).Find(t.Hash)!).Value!;
            var bytes = new byte[file.Format.Bytes(file.Frames).Count];
            file.Read(0, bytes);
            return $"{t.TrackId} {t.Pass} {Convert.ToHexString(System.Security.Cryptography.SHA256.HashData(bytes))}";
        }),
    ];
}

using System.Diagnostics;
using System.Globalization;
using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;

// Writes an exported session of 24 tracks and so many minutes, busy throughout, and prints it as a running server would:
// GateSplit.Bench MINUTES FILE FOLDER ROUNDS. With "stereo" behind these it prints 16 stereo lines of mixed voices with
// effects instead, with "wide" 32 tracks. With "rules" alone it times signal, checks and laying.
if (args is ["rules"])
{
    GateSplit.Bench.RulesBench.Run();
    return;
}

const int bars4 = 4;
var minutes = int.Parse(args[0]);
var bars = minutes * 30; // 120 quarters a minute in 4/4
var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
for (var bar = 0; bar < bars; bar++)
{
    foreach (var (key, steps) in new (int, string)[]
    {
        (36, "X...x...X..x...."), (38, "....X..g....X..g"), (42, "x.x.x.x.x.x.x.x."), (46, "..............x."), (37, "...x......x....."),
        (39, "....x.......x..."), (41, "..........x....."), (43, "............x..."), (45, "..........x....."), (48, "........x......."),
        (49, bar % bars4 == 0 ? "X..............." : "................"), (51, "X...x...X...x..."),
    })
    {
        writer.Hits(10, key, bar, steps);
    }

    for (var beat = 0; beat < 4; beat++)
    {
        writer.Hold(1, 36 + beat, 100, bar * 4 + beat, 0.8);
        writer.Hold(4, 60 + 2 * beat, 90, bar * 4 + beat, 0.9);
    }

    writer.Hold(3, 55, 80, bar * 4, 3.8);
    writer.Hold(3, 62, 80, bar * 4, 3.8);
}

var file = writer.ToFile("Bench", bars);
var song = Song.Of(file);
var kind = args.ElementAtOrDefault(4);
Chart[] charts = kind == "stereo"
    ? [BrindleSix.Chart, BrindleSix.Chart, FennelSampler.Chart, WickerKeys.Chart]
    : kind == "wide" ? [OstlerKitRoom.Chart, MudlarkNine.Chart, WickerKeys.Chart, FennelSampler.Chart] : [OstlerKitRoom.Chart, MudlarkNine.Chart, WickerKeys.Chart];
if (kind is not null)
{
    // Every voice of every source plays on every beat.
    foreach (var voice in charts.SelectMany(c => c.Voices).DistinctBy(v => (v.Channel, v.Keys.IsEmpty ? 0 : v.Keys[0])))
    {
        for (var beat = 0; beat < 4 * bars; beat++)
        {
            writer.Hold(voice.Channel, voice.Keys.IsEmpty ? 48 + beat % 12 : voice.Keys[0], 90, beat, 0.8);
        }
    }

    file = writer.ToFile("Bench", bars);
    song = Song.Of(file);
}

var split = StartingSplit.Of(charts, bars, 48000);
foreach (var declaring in split.Units.Where(u => u.Chart.DeclaresPorts))
{
    split = new DeclarePorts(declaring.Id, 12, Width.Stereo, "Out", 1).Apply(split).Value!;
    split = new MarkRestarted(declaring.Id).Apply(split).Value!;
}

split = Layer.Propose(new SplitView(split, Sounding.Elements(split, song)), new LayWish()).After;
foreach (var waiting in split.Units.Where(u => u.NeedsRestart))
{
    split = new MarkRestarted(waiting.Id).Apply(split).Value!;
}

split = split with { Tracks = [.. split.Tracks.Where(t => t.Pass == 1 && (kind != "stereo" || t.Width == Width.Stereo)).Take(kind switch { "stereo" => 16, "wide" => 32, _ => 24 })] };
File.WriteAllBytes(args[1], SessionFile.Of("Bench", MidiWriter.Write(file), split).ToJson());
var view = new SplitView(split, Sounding.Elements(split, song));
var folder = args[2];
var best = (Seconds: double.MaxValue, Cores: 0.0);
for (var round = 0; round < int.Parse(args[3]); round++)
{
    Directory.CreateDirectory(folder);
    var started = Stopwatch.StartNew();
    var before = Environment.CpuUsage.TotalTime;
    new StandInRecorder(view, song).Print(t => Path.Combine(folder, t.Id + ".wav"), DateTime.UnixEpoch);
    var seconds = started.Elapsed.TotalSeconds;
    if (seconds < best.Seconds)
    {
        best = (seconds, (Environment.CpuUsage.TotalTime - before).TotalSeconds / seconds);
    }

    Directory.Delete(folder, recursive: true);
}

Console.WriteLine(string.Create(
    CultureInfo.InvariantCulture,
    $"  in the server, {minutes,3} minutes   {best.Seconds,7:0.00} s   {minutes * 60 / best.Seconds,5:0.0} x real time   {Environment.WorkingSet >> 20,6} MB   on {best.Cores:0.0} cores   ({split.Tracks.Length} tracks, {song.Notes.Length} notes)"));

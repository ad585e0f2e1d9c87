using System.Diagnostics;
using System.Globalization;
using GateSplit.Bench;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;

// GateSplit.Bench KIND MINUTES FILE FOLDER ROUNDS writes an exported session of so many minutes and prints it as a running
// server would: 24 tracks ("busy"), 16 stereo lines of mixed voices with effects ("lines"), the same with every voice on
// every beat ("crowded"), or 32 such tracks ("wide"). GateSplit.Bench rules times signal, checks and laying; GateSplit.Bench damaged
// N reads N damaged files; GateSplit.Bench truth N plants faults into N random sessions; GateSplit.Bench prove SESSION FOLDER proves printed
// files, GateSplit.Bench waves FOLDER zooms through their waveforms, GateSplit.Bench resampler measures what moves sounds; GateSplit.Bench handoff FOLDER TO FORMAT hands recordings off.
if (args is ["rules"])
{
    RulesBench.Run();
    return;
}

if (args is ["damaged", var files])
{
    DamagedBench.Run(int.Parse(files, CultureInfo.InvariantCulture));
    return;
}

if (args is ["truth", .. var truth])
{
    TruthBench.Run(
        truth is [var sessions, ..] ? int.Parse(sessions, CultureInfo.InvariantCulture) : 500,
        truth is [_, var seed] ? int.Parse(seed, CultureInfo.InvariantCulture) : Random.Shared.Next(1_000_000));
    return;
}

if (args is ["proof" or "rooms", var within, .. var proof])
{
    var rate = proof is [_, _, var hertz] ? int.Parse(hertz, CultureInfo.InvariantCulture) : 48000;
    Action<int, int, int, string> run = args[0] == "proof" ? ProofBench.Run : ProofBench.RunRooms;
    run(
        proof is [var takes, ..] ? int.Parse(takes, CultureInfo.InvariantCulture) : 300,
        proof is [_, var seed, ..] ? int.Parse(seed, CultureInfo.InvariantCulture) : Random.Shared.Next(1_000_000),
        rate,
        within);
    return;
}

if (args is ["prove", var proved, var printedFiles])
{
    SoundBench.Prove(proved, printedFiles);
    return;
}

if (args is ["waves", var drawn])
{
    SoundBench.Waves(drawn);
    return;
}

if (args is ["resampler"])
{
    SoundBench.Resampler();
    return;
}

if (args is ["handoff", var recorded, var handed, var stored])
{
    await HandoffBench.Run(recorded, handed, stored);
    return;
}

var kind = args[0];
var minutes = int.Parse(args[1], CultureInfo.InvariantCulture);
var bars = minutes * 30; // 120 quarters a minute in 4/4
var file = Loads.Song(kind, bars);
var song = Song.Of(file);
var split = StartingSplit.Of([.. Loads.Sources(kind)], bars, 48000);
foreach (var declaring in split.Units.Where(u => u.Chart.DeclaresPorts))
{
    split = new DeclarePorts(declaring.Id, 12, Width.Stereo, "Out", 1).Apply(split).Value!;
    split = new MarkRestarted(declaring.Id).Apply(split).Value!;
}

split = Layer.Propose(SplitView.Of(split, song), new LayWish(HardPan: false) { Unity = true }).After;
foreach (var waiting in split.Units.Where(u => u.NeedsRestart))
{
    split = new MarkRestarted(waiting.Id).Apply(split).Value!;
}

var first = split.Tracks.Where(t => t.Pass == 1);
if (kind is "lines" or "crowded")
{
    // The outputs of the kit are pairs, so its microphones may be recorded as pairs where stereo lines run short.
    var kit = split.Units.Where(u => u.Chart == OstlerKitRoom.Chart).Select(u => split.Banks.First(b => b.UnitId == u.Id).Id).ToHashSet();
    first = first.Where(t => t.Width == Width.Stereo)
        .Concat(first.Where(t => t.Width == Width.Mono && kit.Contains(t.Input!.BankId)).Select(t => t with { Width = Width.Stereo }));
}

split = split with { Tracks = [.. first.Take(kind switch { "busy" => 24, "wide" => 32, _ => 16 })] };
File.WriteAllBytes(args[2], SessionFile.Of("Bench", MidiWriter.Write(file), split).ToJson());
var view = SplitView.Of(split, song);
var folder = args[3];
var best = (Seconds: double.MaxValue, Cores: 0.0);
for (var round = 0; round < int.Parse(args[4], CultureInfo.InvariantCulture); round++)
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
    $"  in the server, {minutes,3} minutes   {best.Seconds,7:0.000} s   {minutes * 60 / best.Seconds,5:0.0} x real time   {Environment.WorkingSet >> 20,6} MB   on {best.Cores:0.0} cores   ({split.Tracks.Length} tracks, {song.Notes.Length} notes)"));

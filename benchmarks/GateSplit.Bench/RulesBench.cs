using System.Diagnostics;
using System.Globalization;
using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Planning;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Bench;

/// <summary>Times signal, checks and laying on a source that is far larger than any in use.</summary>
internal static class RulesBench
{
    private const int Rounds = 200;

    public static void Run()
    {
        var (view, sounding) = Large(elements: 256, ports: 128, tracks: 128);
        Tell("signal and checks, 256 elements, 128 ports, 128 tracks", () => AllChecks.Look(new SplitView(view.Split, sounding)).Length);
        var (bare, _) = Large(elements: 200, ports: 128, tracks: 0);
        Tell("laying 200 elements on 128 ports", () => Layer.Propose(bare, new LayWish()).Lines.Length);
    }

    private static void Tell(string what, Func<int> work)
    {
        var times = new List<double>();
        for (var round = 0; round < Rounds; round++)
        {
            var started = Stopwatch.GetTimestamp();
            work();
            times.Add(Stopwatch.GetElapsedTime(started).TotalMilliseconds);
        }

        times.Sort();
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {what,-56} {times[Rounds / 2],7:0.0} ms median   {times[0],7:0.0} ms best"));
    }

    private static (SplitView View, System.Collections.Immutable.ImmutableHashSet<ElementRef> Sounding) Large(int elements, int ports, int tracks)
    {
        var chart = new Chart("large", "Large", SourceKind.Hardware, "A large source.")
        {
            Voices = [.. Enumerable.Range(0, elements).Select(i => new ChartVoice($"v{i}", $"Voice {i}", i % 16 + 1, [i % 128]) { Drum = new DrumPatch { BodyLevel = 1 } })],
            Elements =
            [
                .. Enumerable.Range(0, elements).Select(i => new ChartElement($"e{i}", $"Element {i}", (Family)(i % 8), ElementKind.Voice, Width.Mono)
                {
                    Hears = [new Hearing($"v{i}")], SendDb = i % 4 == 0 ? -12 : null, Port = i % ports + 2,
                }),
                new ChartElement("return", "Return", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { ReturnSeconds = 1 },
            ],
            Ports = [new ChartPort(1, "Main", 1, Width.Stereo, Tap.AfterMaster) { IsMain = true }, .. Enumerable.Range(0, ports).Select(i => new ChartPort(i + 2, $"Out {i}", i + 3, Width.Mono, Tap.AfterFader))],
            Modes = [new ChartMode("all", "All", [.. Enumerable.Range(1, ports + 1)], NeedsRestart: false)],
        };
        var split = StartingSplit.Of([chart], 16, 48000);
        split = split with
        {
            Tracks = [.. Enumerable.Range(0, tracks).Select(i => new Track($"t{i + 1}", $"Track {i + 1}", Width.Mono) { Input = new InputRef("b-u1", i + 3) })],
        };
        var sounding = split.Units[0].Elements.Select(e => new ElementRef("u1", e.ElementId)).ToHashSet();
        return (new SplitView(split, [.. sounding]), [.. sounding]);
    }
}

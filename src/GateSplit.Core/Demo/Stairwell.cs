using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Demo;

/// <summary>
/// Stairwell: 12 bars of 3/4, one of them a beat longer, for the lead synth, whose track goes out to a looped-back pair and is recorded from there:
/// once as it is, once with the filter ridden, once with the level ridden as well.
/// </summary>
public static class Stairwell
{
    private const int Bars = 12;
    private const int Landing = 6; // the bar that is one beat longer
    private const int LoopSamples = 256;
    private static readonly Decibels FaderDb = new(6);

    // One row a bar: beat, length, key. It climbs like the stair, rests on the landings, and comes down.
    private static readonly (double Beat, double Length, int Key)[][] Line =
    [
        [(0, 0.9, 57), (1, 0.9, 60), (2, 0.9, 64)], [(0, 2.6, 65)], [(0, 0.9, 59), (1, 0.9, 62), (2, 0.9, 65)], [(0, 2.6, 67)],
        [(0, 0.9, 60), (1, 0.9, 64), (2, 0.9, 67)], [(0, 1.4, 69), (1.5, 1.4, 72)], [(0, 2.9, 71)], [(0, 0.9, 72), (1, 0.9, 69), (2, 0.9, 65)],
        [(0, 1.4, 67), (1.5, 1.4, 64)], [(0, 0.9, 65), (1, 0.9, 62), (2, 0.9, 59)], [(0, 1.4, 60), (1.5, 1.4, 56)], [(0, 2.9, 57)],
    ];

    /// <summary>The session.</summary>
    public static DemoSession Session { get; } = Build();

    private static DemoSession Build()
    {
        var writer = new PatternWriter(480, Tempo.FromQuartersPerMinute(66), new Metre(3, 4)) { ByHand = true, Others = [(Landing, Metre.Common)] };
        for (var bar = 0; bar < Bars; bar++)
        {
            foreach (var (beat, length, key) in Line[bar])
            {
                writer.Hold(1, key, beat == 0 ? 104 : 88, (bar > Landing ? 3 * bar + 1 : 3 * bar) + beat, bar == Landing ? length + 1 : length);
            }
        }

        var split = Looped();
        var lead = new ElementRef(split.Units[0].Id, new ElementId("lead"));
        DemoEdit Ride(RideControl control, params (double Bar, double Value)[] points) =>
            new(new SetRide(new Ride(lead, control, [.. points.Select(p => new RidePoint(p.Bar, p.Value))])));
        return new DemoSession("Stairwell", writer.ToFile("Stairwell", Bars), split,
        [
            new DemoPrint(),
            Ride(RideControl.Filter, (1, 700), (4, 1800), (7, 9000), (8, 9000), (12, 900)),
            new DemoPrint(),
            Ride(RideControl.Level, (1, -9), (6, 0), (8, 1.5), (12, -6), (13, -18)),
            new DemoPrint(),
        ]);
    }

    private static Split Looped()
    {
        var split = StartingSplit.Of([SiskinMono.Chart], Bars, 48000);
        split = new AddBank(BankKind.Loopback, "Loop", 2).Apply(split).Value!;
        var loop = split.Banks.First(b => b.Kind == BankKind.Loopback);
        return new Several("Set up",
        [
            new SetFader(new ElementRef(split.Units[0].Id, new ElementId("lead")), FaderDb),
            new SetBank(loop with { DelaySamples = LoopSamples }),
            new AddTrack(new Track(new TrackId("t1"), "Siskin", Width.Stereo)
            {
                Input = new InputRef(split.Banks[0].Id, 1),
                Armed = false,
                Monitor = MonitorMode.Always,
                Bus = new InputRef(loop.Id, 1),
            }),
            new AddTrack(new Track(new TrackId("t2"), "Siskin lead", Width.Stereo) { Input = new InputRef(loop.Id, 1) }),
        ]).Apply(split).Value!;
    }
}

using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Demo;

/// <summary>
/// Relief Boat: 32 bars of 7/8 for the groovebox with two small mono boxes on its external input. It comes in over
/// cables, and the interface has eight sockets for its fourteen channels: two passes, with the cables moved between
/// them. The body is a loop that goes round once before the recording starts.
/// </summary>
public static class ReliefBoat
{
    private const int Bars = 32;
    private const int Sockets = 8;
    private const double BarQuarters = 3.5;
    private const int Drums = 10, Percussion = 9, Bass = 1, Keys = 2, Pad = 3, Lead = 4, Bells = 15, Horn = 16;

    // E minor with a bright sixth: i, IV, VII, v; as bass note and chord.
    private static readonly (int Root, int[] Chord)[] Harmony =
    [
        (40, [59, 64, 67]), (45, [57, 61, 64]), (38, [57, 62, 66]), (35, [59, 62, 66]),
    ];

    // Quarter within the bar, length, steps above the chord's lowest note; one row a bar.
    private static readonly (double At, double Length, int Above)[][] Tune =
    [
        [(0, 0.9, 12), (1, 0.9, 15), (2, 1.4, 17)],
        [(0, 1.9, 16), (2, 0.5, 14), (2.5, 0.9, 12)],
        [(0, 0.9, 14), (1, 0.5, 17), (1.5, 0.5, 19), (2, 1.4, 21)],
        [(0, 2.9, 19)],
    ];

    /// <summary>The session.</summary>
    public static DemoSession Session { get; } = Build();

    private static DemoSession Build()
    {
        var writer = new PatternWriter(480, Tempo.FromQuartersPerMinute(132), new Metre(7, 8)) { ByHand = true };
        for (var bar = 0; bar < Bars; bar++)
        {
            Rhythm(writer, bar);
            Harmonies(writer, bar);
            Tunes(writer, bar);
        }

        var file = writer.ToFile("Relief Boat", Bars);
        var split = Laid(Song.Of(file));
        var unit = split.Units[0];

        // The first take was started by hand and ran on its own clock; since then the recorder starts it.
        return new DemoSession("Relief Boat", file, split,
        [
            new DemoEdit(new SetClock(unit.Id, ClockMode.Free)),
            new DemoEdit(new SetSimulatedUnit(unit.Id, unit.Simulated with { OffsetMs = 180, DriftPpm = 35 })),
            new DemoPrint(),
            new DemoEdit(new SetClock(unit.Id, ClockMode.Follows)),
        ]);
    }

    /// <summary>Seven eighths as two, two and three: fourteen steps, the third group begins on the ninth.</summary>
    private static void Rhythm(PatternWriter writer, int bar)
    {
        var calm = bar is >= 16 and < 20;
        var fill = bar % 8 == 7;
        writer.Hits(Drums, 36, bar, calm ? "x............." : bar % 2 == 0 ? "X.....x.X....." : "X..x....X..x..");
        writer.Hits(Drums, 38, bar, calm ? ".............." : fill ? "....X....gX.xX" : "....X......X.g");
        writer.Hits(Drums, 42, bar, bar < 4 ? "x...x...x.x.x." : "x.xgx.xgx.xgx.");
        if (bar % 4 == 3)
        {
            writer.Hits(Drums, 46, bar, "............x.");
        }

        if (bar >= 8)
        {
            writer.Hits(Percussion, 60, bar, bar % 2 == 0 ? "..x..x....x.x." : "..x....x..x...");
            writer.Hits(Percussion, 61, bar, "x.....x....x..");
        }
    }

    private static void Harmonies(PatternWriter writer, int bar)
    {
        var (root, chord) = Harmony[bar / 2 % Harmony.Length];
        var start = bar * BarQuarters;
        foreach (var (at, length, above) in new[] { (0.0, 0.8, 0), (1.0, 0.4, 0), (1.5, 0.4, 12), (2.0, 0.9, 7), (3.0, 0.4, bar % 2 == 0 ? 0 : 10) })
        {
            writer.Hold(Bass, root + above, at == 0 ? 104 : 84, start + at, length);
        }

        foreach (var key in chord)
        {
            if (bar % 2 == 0)
            {
                writer.Hold(Pad, key, 70, start, 2 * BarQuarters - 0.2);
            }

            if (bar >= 4 && bar is < 16 or >= 20)
            {
                writer.Hold(Keys, key, 82, start + 0.5, 0.3);
                writer.Hold(Keys, key, 74, start + 1.5, 0.3);
                writer.Hold(Keys, key, 88, start + 2.75, 0.5);
            }
        }
    }

    private static void Tunes(PatternWriter writer, int bar)
    {
        var chord = Harmony[bar / 2 % Harmony.Length].Chord;
        var start = bar * BarQuarters;
        if (bar is >= 8 and < 16 or >= 24)
        {
            foreach (var (at, length, above) in Tune[bar % Tune.Length])
            {
                writer.Hold(Lead, 59 + above, 96, start + at, length);
            }
        }

        if (bar >= 12)
        {
            for (var i = 0; i < 7; i++)
            {
                writer.Hold(Bells, chord[i % 3] + 12, i is 0 or 4 ? 92 : 66, start + i * 0.5, 0.4);
            }
        }

        if (bar >= 20 && bar % 2 == 1)
        {
            writer.Hold(Horn, chord[0], 90, start, 2);
            writer.Hold(Horn, chord[1], 84, start + 2, 1.3);
        }
    }

    private static Split Laid(Song song)
    {
        var split = StartingSplit.Of([BrindleSix.Chart], Bars, 48000);
        var unit = split.Units[0].Id;
        split = Apply(
            split,
            [
                new SetMode(unit, new ModeId("full")),
                new MarkRestarted(unit),
                new SetBank(split.Banks[0] with { Connected = false }),
                new AddBank(BankKind.Analog, "Socket", Sockets),
                new SetPass(split.Pass with { Looped = true, SettleLoops = 1 }),
            ]);
        split = Layer.Propose(SplitView.Of(split, song), new LayWish(HardPan: false) { Unity = true }).After;
        return Apply(split, [.. split.Units[0].Elements.Where(e => e.Port is not null && e.InMain).Select(e => (Edit)new SetInMain(new ElementRef(unit, e.ElementId), false))]);
    }

    private static Split Apply(Split split, ImmutableArray<Edit> edits) => new Several("Set up", edits).Apply(split).Value!;
}

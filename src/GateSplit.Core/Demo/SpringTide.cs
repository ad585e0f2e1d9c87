using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Demo;

/// <summary>
/// Spring Tide: 40 bars of 4/4 that slow down from 104 to 96, for the pad sampler. Two single pads have ports of their own,
/// five groups leave as groups, most pads are empty; bass and keys were recorded elsewhere, late, and brought in.
/// </summary>
public static class SpringTide
{
    private const int Bars = 40;
    private const int FirstKey = 36;
    private const int SlowsFrom = 16;
    private const int SlowsTo = 24;
    private const double Fast = 104, Slow = 96;

    // Groups are channels, pads are keys; the pads of E and F climb by semitones.
    private const int Kicks = 1, Snares = 2, Hats = 3, Percussion = 4, Bass = 5, Keys = 6;
    private static readonly int[] BassPads = [1, 1, 8, 6, 4, 4, 11, 6];

    /// <summary>The session.</summary>
    public static DemoSession Session { get; } = Build();

    private static DemoSession Build()
    {
        var writer = new PatternWriter(480, Tempo.FromQuartersPerMinute(Fast), Metre.Common) { ByHand = true };
        for (var bar = 0; bar < Bars; bar++)
        {
            Bar(writer, bar);
        }

        var split = Laid();
        return new DemoSession("Spring Tide", Slowing(writer.ToFile("Spring Tide", Bars), writer.TicksPerBar), split,
        [
            new DemoBringIn([.. split.Tracks.Where(t => t.Name is "Bass" or "Keys").Select(t => t.Id)], LateMs: 31),
        ]);
    }

    /// <summary>The tempo falls from bar to bar.</summary>
    private static MidiFile Slowing(MidiFile file, Ticks ticksPerBar)
    {
        var tempos = Enumerable.Range(1, SlowsTo - SlowsFrom).Select(i => Song.TempoEvent(
            ticksPerBar * (SlowsFrom + i - 1),
            Tempo.FromQuartersPerMinute(Fast + (Slow - Fast) * i / (SlowsTo - SlowsFrom))));
        var first = file.Tracks[0];
        return file with { Tracks = file.Tracks.SetItem(0, first.InsertRange(first.Length - 1, tempos)) };
    }

    private static void Bar(PatternWriter writer, int bar)
    {
        var calm = bar is >= 16 and < 24;
        void Pad(int channel, int pad, string steps) => writer.Hits(channel, FirstKey + pad - 1, bar, steps);
        Pad(Kicks, 1, calm ? "X..............." : bar % 2 == 0 ? "X.....x...x....." : "X..x......x.....");
        if (bar >= 8 && !calm)
        {
            Pad(Kicks, 3, "..............g.");
            Pad(Snares, 1, bar % 8 == 7 ? "....X.......X.xx" : "....X.......X...");
            Pad(Snares, 3, bar % 4 == 3 ? "............x.x." : "................");
        }

        Pad(Hats, 2, calm ? "x.......x......." : "x.xgx.x.x.xgx.x.");
        if (bar % 8 == 0)
        {
            Pad(Hats, 9, "X...............");
        }

        if (bar >= 12)
        {
            Pad(Percussion, 2, "...x..x...x.....");
            Pad(Percussion, 5, bar % 4 == 1 ? "..........x.xx.." : "................");
        }

        var pad = BassPads[bar / 2 % BassPads.Length];
        writer.Hold(Bass, FirstKey + pad - 1, 104, bar * 4, 1.4);
        writer.Hold(Bass, FirstKey + pad - 1, 84, bar * 4 + 2.5, 0.9);
        if (bar >= 4)
        {
            foreach (var above in new[] { 0, 4, 7 })
            {
                writer.Hold(Keys, FirstKey + (pad - 1 + above) % 12, 78, bar * 4 + 1, calm ? 2.6 : 0.6);
            }
        }
    }

    /// <summary>Two kicks on ports of their own and five groups on theirs, each on a stereo track but the single pads.</summary>
    private static Split Laid()
    {
        var split = StartingSplit.Of([TansyGrid.Chart], Bars, 48000);
        var unit = split.Units[0].Id;
        (string Name, Width Width, Edit Assign, int Port)[] lines =
        [
            ("Kick", Width.Mono, new AssignPort(new ElementRef(unit, new ElementId("a1")), 2), 2),
            ("Kick ghost", Width.Mono, new AssignPort(new ElementRef(unit, new ElementId("a3")), 3), 3),
            ("Snares", Width.Stereo, Group("Group B", 4), 4),
            ("Hats", Width.Stereo, Group("Group C", 5), 5),
            ("Percussion", Width.Stereo, Group("Group D", 6), 6),
            ("Bass", Width.Stereo, Group("Group E", 7), 7),
            ("Keys", Width.Stereo, Group("Group F", 8), 8),
        ];
        SetGroup Group(string name, int port) => new(unit, new UnitGroup(name) { Port = port });
        var edits = lines.SelectMany((line, i) => new[]
        {
            line.Assign,
            new AddTrack(new Track(new TrackId($"t{i + 1}"), line.Name, line.Width) { Input = new InputRef(split.Banks[0].Id, 2 * line.Port - 1) }),
        });

        // A single pad goes alone on the left of its pair.
        Edit[] alone = [new SetPan(new ElementRef(unit, new ElementId("a1")), new Pan(-1)), new PanApart(new ElementRef(unit, new ElementId("a1")), 0), new SetPan(new ElementRef(unit, new ElementId("a3")), new Pan(-1)), new PanApart(new ElementRef(unit, new ElementId("a3")), 0)];
        (string Pad, double Pan)[] pans = [("c2", 0.25), ("c9", -0.4), ("d2", -0.5), ("d5", 0.4), ("b3", 0.3), .. Enumerable.Range(1, 12).Select(n => ($"f{n}", n % 2 == 0 ? 0.35 : -0.35))];
        return new Several("Set up", [.. edits, .. alone, .. pans.Select(p => new SetPan(new ElementRef(unit, new ElementId(p.Pad)), new Pan(p.Pan)))]).Apply(split).Value!;
    }
}

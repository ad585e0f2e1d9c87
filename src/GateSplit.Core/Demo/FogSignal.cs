using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Demo;

/// <summary>
/// Fog Signal: 16 bars of 4/4 for the drum machine and the keyboard, with faults planted: the clap's port that nobody
/// hears, since its track sits on the rim's input; the mix heard together with the single lines, and the whole drum machine
/// heard directly at the interface besides; a hot fader on the low tom; the cymbal's input switched off; a hall return that
/// lands on the deep kick's pair; a pad panned hard to share a pair, whose track does not give its pan back.
/// </summary>
public static class FogSignal
{
    private const int Bars = 16;
    private const int Drums = 10;
    private const int Bass = 1, Pad = 3, Bell = 4, DeepKick = 9;
    private static readonly Decibels LowTom = new(7.5);
    private const double PadPan = 0.3;

    // D minor: i, VI, III, VII, then iv, VI, V, i; as bass note and chord.
    private static readonly (int Root, int[] Chord)[] Harmony =
    [
        (38, [50, 57, 62, 65]), (34, [53, 58, 62, 65]), (41, [53, 57, 60, 65]), (36, [52, 55, 60, 64]),
        (43, [55, 58, 62, 67]), (34, [53, 58, 62, 65]), (33, [52, 57, 61, 64]), (38, [50, 57, 62, 65]),
    ];

    /// <summary>The session.</summary>
    public static DemoSession Session { get; } = Build();

    private static DemoSession Build()
    {
        var writer = new PatternWriter(480, Tempo.FromQuartersPerMinute(92), Metre.Common) { ByHand = true };
        for (var bar = 0; bar < Bars; bar++)
        {
            DrumBar(writer, bar);
            KeyBar(writer, bar);
        }

        var file = writer.ToFile("Fog Signal", Bars);
        return new DemoSession("Fog Signal", file, Faulty(Song.Of(file)), [new DemoPrint()]);
    }

    private static void DrumBar(PatternWriter writer, int bar)
    {
        var fill = bar % 8 == 7;
        writer.Hits(Drums, 36, bar, bar % 2 == 0 ? "X.....x...x....." : "X..x......x..g..");
        writer.Hits(Drums, 38, bar, fill ? "....X.......X.xx" : "....X.......X..g");
        writer.Hits(Drums, 42, bar, bar < 4 ? "x...x...x...x..." : "x.xgx.xgx.xgx...");
        if (bar >= 4)
        {
            writer.Hits(Drums, 46, bar, "..............x.");
        }

        if (bar >= 8)
        {
            writer.Hits(Drums, 39, bar, bar % 2 == 0 ? "....x.......x..." : "....x......gx...");
        }

        if (fill)
        {
            writer.Hits(Drums, 48, bar, "........xx......");
            writer.Hits(Drums, 41, bar, "..........xx.X..");
        }
        else if (bar % 4 == 2)
        {
            writer.Hits(Drums, 41, bar, "..........x..x..");
        }

        if (bar % 8 == 0)
        {
            writer.Hits(Drums, 49, bar, "X...............");
        }
    }

    private static void KeyBar(PatternWriter writer, int bar)
    {
        var (root, chord) = Harmony[bar / 2 % Harmony.Length];
        var beat = bar * 4.0;
        if (bar % 4 == 0)
        {
            writer.Hold(DeepKick, 26, 112, beat, 2);
        }

        if (bar >= 2)
        {
            double[] starts = [0, 1.5, 2.5, 3.25];
            int[] keys = [root, root, root + 12, root + 7];
            for (var i = 0; i < starts.Length; i++)
            {
                writer.Hold(Bass, keys[i], i == 0 ? 108 : 86, beat + starts[i], i == 0 ? 1.2 : 0.5);
            }
        }

        if (bar % 2 == 0)
        {
            foreach (var key in chord)
            {
                writer.Hold(Pad, key, 74, beat, 7.8);
            }
        }

        if (bar >= 6)
        {
            int[] order = [3, 1, 2, 0];
            for (var i = 0; i < 4; i++)
            {
                writer.Hold(Bell, chord[order[(i + bar) % 4]] + 12, i == 0 ? 96 : 70, beat + i + (i % 2 == 1 ? 0.5 : 0), i % 2 == 1 ? 0.45 : 0.8);
            }
        }
    }

    private static Split Faulty(Song song)
    {
        var split = StartingSplit.Of([MudlarkNine.Chart, WickerKeys.Chart], Bars, 48000);
        var drums = split.Units[0];
        var drumsAlone = Sounding.Elements(split, song).Where(e => e.UnitId == drums.Id).ToImmutableHashSet();
        split = Layer.Propose(new SplitView(split, drumsAlone), new LayWish(HardPan: false) { Unity = true }).After;
        var keys = split.Units[1];
        var usb = split.BankOf(drums);
        var (kick, snare, clap) = (Named(split, "Kick"), Named(split, "Snare"), Named(split, "Clap"));
        var mix = new Track(split.NewTrackId(), "Drum mix", Width.Stereo)
        {
            Input = new InputRef(usb.Id, 1),
            Monitor = MonitorMode.Always,
        };
        var deepKick = keys.Element(new ElementId("deep-kick"));
        return new Several("Plant faults",
        [
            new AddTrack(mix, 0),
            new RemoveTrack(clap.Id),
            new SetTrackInput(kick.Id, snare.Input),
            new SetTrackInput(snare.Id, kick.Input),
            new SetBank(usb with { HeardDirectly = true }),
            new SwitchInputs(usb.Id, Named(split, "Cymbal").Input!.Channel, Named(split, "Cymbal").Input!.Channel, false),
            new SetFader(new ElementRef(drums.Id, new ElementId("tom-low")), LowTom),
            .. KeyLines(split, keys, deepKick),
        ]).Apply(split).Value!;
    }

    private static Track Named(Split split, string name) => split.Tracks.First(t => t.Name == name);

    /// <summary>
    /// Bass and pad share a pair, panned hard apart; the bell has its own; the hall return is left on the deep kick's. The tracks were made as
    /// if the first pair were a main mix, so that all of them sit a pair too high.
    /// </summary>
    private static IEnumerable<Edit> KeyLines(Split split, Unit keys, UnitElement deepKick)
    {
        var hall = new ElementRef(keys.Id, new ElementId("hall"));
        var deep = new ElementRef(keys.Id, deepKick.ElementId);
        var next = split.NewTrackId().Number + 1;
        (ElementRef Element, int Port, int Side)[] lines =
            [(deep, 1, -1), (new ElementRef(keys.Id, new ElementId("bass")), 2, -1), (new ElementRef(keys.Id, new ElementId("pad")), 2, 1), (new ElementRef(keys.Id, new ElementId("bell")), 3, -1)];
        foreach (var (element, port, side) in lines)
        {
            yield return new AssignPort(element, port);
            yield return new SetPan(element, new Pan(element.ElementId.Value == "pad" ? PadPan : side));
            if (element.ElementId.Value == "pad")
            {
                yield return new PanApart(element, 1);
            }

            yield return new AddTrack(new Track(new TrackId($"t{next++}"), split.NameOf(element), Width.Mono)
            {
                Input = new InputRef(split.BankOf(keys).Id, (side < 0 ? 2 * port - 1 : 2 * port) + 2),
                MeantFor = [Meant.For(element)],
            });
        }

        yield return new AssignPort(hall, 1);
    }
}

using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;

namespace GateSplit.Bench;

/// <summary>What the benchmark prints: which sources, and what they play.</summary>
internal static class Loads
{
    private const int BeatsPerBar = 4;
    private const int Drums = 10, Percussion = 9, Bass = 1, Keys = 2, Pad = 3, Lead = 4, BoxLeft = 15, BoxRight = 16;
    private static readonly int[][] Chords = [[57, 60, 64, 67], [53, 57, 60, 64], [55, 60, 64, 67], [55, 59, 62, 67]];

    /// <summary>The sources of a kind of load.</summary>
    public static Chart[] Sources(string kind) => kind switch
    {
        "busy" => [OstlerKitRoom.Chart, MudlarkNine.Chart, WickerKeys.Chart],
        "lines" => [BrindleSix.Chart, FennelSampler.Chart, OstlerKitRoom.Chart],
        "wide" => [OstlerKitRoom.Chart, MudlarkNine.Chart, WickerKeys.Chart, FennelSampler.Chart],
        _ => [BrindleSix.Chart, BrindleSix.Chart, FennelSampler.Chart, WickerKeys.Chart],
    };

    /// <summary>The notes of a kind of load.</summary>
    /// <param name="kind">"lines": an arrangement; "busy": drums in sixteenths under a few tones; "crowded" and "wide": that, and every voice on every beat.</param>
    /// <param name="bars">Bars of four quarters at 120 a minute.</param>
    public static MidiFile Song(string kind, int bars)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var bar = 0; bar < bars; bar++)
        {
            Kit(writer, bar);
            if (kind == "lines")
            {
                Arrangement(writer, bar);
            }
            else
            {
                Tones(writer, bar);
            }
        }

        if (kind is "crowded" or "wide")
        {
            EveryVoice(writer, Sources(kind), bars);
        }

        return writer.ToFile("Bench", bars);
    }

    private static void Kit(PatternWriter writer, int bar)
    {
        foreach (var (key, steps) in new (int, string)[]
        {
            (36, "X...x...X..x...."), (38, "....X..g....X..g"), (42, "x.x.x.x.x.x.x.x."), (46, "..............x."), (37, "...x......x....."),
            (39, "....x.......x..."), (41, "..........x....."), (43, "............x..."), (45, "..........x....."), (48, "........x......."),
            (49, bar % 4 == 0 ? "X..............." : "................"), (51, "X...x...X...x..."),
        })
        {
            writer.Hits(Drums, key, bar, steps);
        }
    }

    /// <summary>Bass, lead and percussion in eighths, three voices of keys on every beat, pads of four voices, a small box on either side.</summary>
    private static void Arrangement(PatternWriter writer, int bar)
    {
        var chord = Chords[bar % Chords.Length];
        var start = bar * BeatsPerBar;
        writer.Hits(Percussion, 60, bar, "x.x.x.g.x.x.x.g.");
        writer.Hits(Percussion, 61, bar, "..x...x...x...x.");
        for (var eighth = 0; eighth < 2 * BeatsPerBar; eighth++)
        {
            writer.Hold(Bass, chord[0] - 24, 96, start + eighth * 0.5, 0.4);
            writer.Hold(Lead, chord[eighth % chord.Length] + 12, 90, start + eighth * 0.5, 0.45);
        }

        for (var beat = 0; beat < BeatsPerBar; beat++)
        {
            foreach (var key in chord[1..])
            {
                writer.Hold(Keys, key, 84, start + beat, 0.7);
            }

            writer.Hold(beat % 2 == 0 ? BoxLeft : BoxRight, chord[beat], 80, start + beat, 0.8);
        }

        foreach (var key in chord)
        {
            writer.Hold(Pad, key, 70, start, BeatsPerBar - 0.2);
        }
    }

    private static void Tones(PatternWriter writer, int bar)
    {
        for (var beat = 0; beat < BeatsPerBar; beat++)
        {
            writer.Hold(Bass, 36 + beat, 100, bar * BeatsPerBar + beat, 0.8);
            writer.Hold(Lead, 60 + 2 * beat, 90, bar * BeatsPerBar + beat, 0.9);
        }

        writer.Hold(Pad, 55, 80, bar * BeatsPerBar, 3.8);
        writer.Hold(Pad, 62, 80, bar * BeatsPerBar, 3.8);
    }

    private static void EveryVoice(PatternWriter writer, Chart[] charts, int bars)
    {
        foreach (var voice in charts.SelectMany(c => c.Voices).DistinctBy(v => (v.Channel, v.Keys.IsEmpty ? 0 : v.Keys[0])))
        {
            for (var beat = 0; beat < BeatsPerBar * bars; beat++)
            {
                writer.Hold(voice.Channel, voice.Keys.IsEmpty ? 48 + beat % 12 : voice.Keys[0], 90, beat, 0.8);
            }
        }
    }
}

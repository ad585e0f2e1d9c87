using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Notes;

public sealed class PatternWriterTests
{
    [Fact]
    public void Steps_of_a_bar_become_notes_at_equal_distances()
    {
        var writer = new PatternWriter(480, Tempo.Default, new Metre(6, 8));
        writer.Hits(10, 36, 1, "X..x..");
        var song = Song.Of(writer.ToFile("six eight", 2));

        // A bar of 6/8 is 1440 ticks, a step 240, a hit half a step long.
        Assert.Equal([(1440, 1560), (2160, 2280)], song.Notes.Select(n => ((int)n.StartTick.Count, (int)n.EndTick.Count)));
        Assert.True(song.Notes[0].Velocity > song.Notes[1].Velocity);
        Assert.Equal(new Metre(6, 8), song.Metres.First);
    }

    [Fact]
    public void A_flam_has_a_softer_stroke_just_before_it()
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hits(10, 38, 0, ".f..............");
        var notes = Song.Of(writer.ToFile("flam", 1)).Notes;
        Assert.Equal([90, 120], notes.Select(n => n.StartTick));
        Assert.True(notes[0].Velocity < notes[1].Velocity);
    }

    [Fact]
    public void The_same_steps_give_the_same_file()
    {
        byte[] Write()
        {
            var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
            writer.Hits(10, 42, 0, "x.xgx.xgx.xgx.xg");
            writer.Hold(1, 40, 90, 0, 3.5);
            return MidiWriter.Write(writer.ToFile("again", 1));
        }

        Assert.Equal(Write(), Write());
    }

    [Fact]
    public void The_check_pattern_plays_every_voice_alone_for_a_beat()
    {
        foreach (var chart in Shelf.Charts)
        {
            var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
            Assert.Equal(chart.Voices.Length, song.Notes.Length);
            for (var i = 0; i < chart.Voices.Length; i++)
            {
                Assert.True(chart.Voices[i].Plays(song.Notes[i].Channel, song.Notes[i].Key));
                Assert.Equal(i * 480, song.Notes[i].StartTick);
                Assert.True(song.Notes[i].EndTick <= (i + 1) * 480);
            }
        }
    }
}

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
    public void Hits_are_loud_by_their_sign_and_waver_by_a_known_row_of_numbers()
    {
        // 88, 88, 116 and 38, and what Marsaglia's xorshift (13, 17, 5) from 9E3779B9 gives modulo 13, less 6: -1, 0, 2, 1.
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hits(10, 36, 0, "xxXg");
        Assert.Equal([87, 88, 118, 39], Song.Of(writer.ToFile("four", 1)).Notes.Select(n => n.Velocity));
    }

    [Fact]
    public void A_held_note_begins_and_ends_at_the_nearest_tick_and_is_let_go_without_a_velocity()
    {
        // Two thirds of a quarter of 100 ticks are 66.67, a sixth 16.67, and what is shorter than a tick lasts one.
        var writer = new PatternWriter(100, Tempo.Default, Metre.Common);
        writer.Hold(1, 40, 90, 2 / 3.0, 1 / 6.0);
        writer.Hold(1, 41, 90, 2, 0.001);
        var file = writer.ToFile("held", 1);
        Assert.Equal([new Note(1, 40, 90, 67, 84), new Note(1, 41, 90, 200, 201)], Song.Of(file).Notes);
        Assert.Equal([40, 0], file.Tracks[1].First(e => e.IsNoteOff).Data);
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

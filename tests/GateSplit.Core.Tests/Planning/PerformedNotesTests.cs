using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Planning;

/// <summary>Rolls, repeats and variations against notes worked out by hand: 480 ticks a quarter, 1920 a bar.</summary>
public sealed class PerformedNotesTests
{
    private static readonly ElementRef Kick = new(new UnitId("u1"), new ElementId("kick"));

    [Fact]
    public void A_roll_takes_the_place_of_what_was_there_and_is_as_loud_as_the_stroke_before()
    {
        Assert.Equal([0, 480, 960, 1080, 1200, 1320, 1440, 1920, 2400], Starts(new PerformedStep(Kick, StepKind.Roll, 1.5, 1.75, 4)));
        Assert.All(Notes(new PerformedStep(Kick, StepKind.Roll, 1.5, 1.75, 4)).Where(n => n.StartTick > 960 && n.StartTick < 1440), n => Assert.Equal(92, n.Velocity));
    }

    [Fact]
    public void A_note_that_rings_into_a_step_ends_where_it_begins_and_others_keep_their_length()
    {
        // Held from the second quarter for two: until the third, where the roll begins.
        var (split, song) = Session([new PerformedStep(Kick, StepKind.Roll, 1.5, 2, 1)], w => w.Hold(10, 36, 110, 1, 2), w => w.Hold(10, 36, 110, 0, 0.5), w => w.Hold(10, 36, 110, 4, 1));
        Assert.Equal(
            [(0, 240), (480, 960), (960, 1200), (1440, 1680), (1920, 2400)],
            Kicks(split, song).Select(n => (n.StartTick, n.EndTick)));
    }

    [Fact]
    public void A_roll_before_the_first_stroke_is_of_middle_strength_on_the_voices_first_key()
    {
        var (split, song) = Session([new PerformedStep(Kick, StepKind.Roll, 1, 1.25, 2)], w => w.Hold(10, 36, 50, 4, 1));
        Assert.Equal([(10, 36, 96, 0L, 120L), (10, 36, 96, 240L, 360L), (10, 36, 50, 1920L, 2400L)], Kicks(split, song).Select(n => (n.Channel, n.Key, n.Velocity, n.StartTick.Count, n.EndTick.Count)));
    }

    [Fact]
    public void A_repeat_cuts_what_rings_beyond_its_stretch()
    {
        var (split, song) = Session([new PerformedStep(Kick, StepKind.Repeat, 1, 2, 2)], w => w.Hold(10, 36, 110, 1, 3));
        Assert.Equal([(480, 960), (1440, 1920)], Kicks(split, song).Select(n => (n.StartTick, n.EndTick)));
    }

    [Fact]
    public void A_variation_plays_no_more_of_a_bar_than_there_is_room_for_in_a_shorter_one()
    {
        // Two bars of 4/4, then 3/4: bars 3 and 4 play the first one, without its fourth beat.
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var beat = 0; beat < 4; beat++)
        {
            writer.Hold(10, 36, 100 + beat, beat, 0.25);
        }

        var file = writer.ToFile("Few", 4);
        file = file with { Tracks = [[.. file.Tracks[0].Where(e => e.MetaType != MidiFile.EndOfTrack).Append(MidiEvent.Meta(3840, 0x58, 3, 2, 24, 8)).OrderBy(e => e.Tick)], .. file.Tracks.Skip(1)] };
        var song = Song.Of(file);
        Assert.Equal(5280, song.Metres.BarStart(3));
        var split = Sessions.After(StartingSplit.Of([MudlarkNine.Chart], 4, 48000), new AddStep(new PerformedStep(Kick, StepKind.Variation, 3, 5, 1)));
        Assert.Equal(
            [(0, 100), (480, 101), (960, 102), (1440, 103), (3840, 100), (4320, 101), (4800, 102), (5280, 100), (5760, 101), (6240, 102)],
            Kicks(split, song).Select(n => (n.StartTick, n.Velocity)));
    }

    [Fact]
    public void A_repeat_brings_its_first_stretch_round_until_it_ends()
    {
        // An eighth of the bar from its second quarter on: one stroke in it, four times in two quarters.
        Assert.Equal([0, 480, 720, 960, 1200, 1440, 1920, 2400], Starts(new PerformedStep(Kick, StepKind.Repeat, 1.25, 1.75, 8)));
        Assert.Equal([0, 480, 960, 1440, 1920, 2400], Starts(new PerformedStep(Kick, StepKind.Repeat, 1, 2, 4)));
    }

    [Fact]
    public void A_variation_plays_another_bar()
    {
        Assert.Equal([0, 480, 960, 1440, 1920, 2400, 2880, 3360], Starts(new PerformedStep(Kick, StepKind.Variation, 2, 3, 1)));
        Assert.Equal([0, 480], Starts(new PerformedStep(Kick, StepKind.Variation, 1, 2, 2), new PerformedStep(Kick, StepKind.Variation, 2, 3, 4)));

        Assert.Equal([0, 480, 960, 1440, 1920, 2400, 2880, 3360], Starts(new PerformedStep(Kick, StepKind.Variation, 2.5, 3, 1))); // its second half
        Assert.Equal([0, 480, 960, 1440, 1920, 2400, 3840, 4320, 5760, 6240], Starts(new PerformedStep(Kick, StepKind.Variation, 3, 5, 2))); // twice, and that bar alone

        // Forward and back: every stroke is a quarter of a quarter long.
        Assert.All(Notes(new PerformedStep(Kick, StepKind.Variation, 1, 2, 2)), n => Assert.Equal(120, n.EndTick - n.StartTick));
        Assert.All(Notes(new PerformedStep(Kick, StepKind.Variation, 3, 4, 1)), n => Assert.Equal(120, n.EndTick - n.StartTick));
    }

    [Fact]
    public void Later_steps_change_what_earlier_ones_have_left_and_other_voices_stay()
    {
        var roll = new PerformedStep(Kick, StepKind.Roll, 1, 1.25, 2);
        Assert.Equal([0, 240, 480, 720, 960, 1440, 1920, 2400], Starts(roll, new PerformedStep(Kick, StepKind.Variation, 1.25, 1.5, 3), new PerformedStep(Kick, StepKind.Repeat, 1, 1.5, 4)));
        var (split, song) = Session(roll);
        var snare = split.Units[0].Chart.Voices.First(v => v.Id.Value == "snare");
        Assert.Equal([960], PerformedNotes.Of(split, split.Units[0], snare, song).Select(n => n.StartTick));
        Assert.False(PerformedNotes.Changes(split, split.Units[0], snare));
    }

    [Fact]
    public void The_notes_that_are_kept_beside_a_take_are_those_that_were_performed()
    {
        var (split, song) = Session(new PerformedStep(Kick, StepKind.Roll, 1, 1.25, 4));
        var laid = Layer.Propose(Sessions.View(split, song), new LayWish(HardPan: false) { Unity = true }).After;
        var kept = Song.Of(NoteTracks.Of(song.File, Sessions.View(laid, song)));
        Assert.Equal([0, 120, 240, 360, 480, 960, 1440, 1920, 2400], kept.Notes.Where(n => n.Key == 36).Select(n => n.StartTick));
        Assert.Equal([960], kept.Notes.Where(n => n.Key == 38).Select(n => n.StartTick));
    }

    [Theory]
    [InlineData(StepKind.Roll, 1, 2, 17)]
    [InlineData(StepKind.Repeat, 1, 2, 0)]
    [InlineData(StepKind.Variation, 1, 2, 99)]
    [InlineData(StepKind.Roll, 2, 2, 4)]
    [InlineData(StepKind.Roll, 0.5, 2, 4)]
    [InlineData(StepKind.Roll, 1, 99, 4)]
    [InlineData(StepKind.Roll, double.NaN, 2, 4)]
    public void What_cannot_be_performed_is_refused(StepKind kind, double from, double to, int number) =>
        Assert.False(new AddStep(new PerformedStep(Kick, kind, from, to, number)).Apply(Session().Split).Ok);

    [Fact]
    public void A_step_is_taken_away_again_and_goes_with_its_source()
    {
        var step = new PerformedStep(Kick, StepKind.Roll, 1, 2, 4);
        var (split, _) = Session(step);
        Assert.Empty(Sessions.After(split, new RemoveStep(step)).Steps);
        Assert.False(new RemoveStep(step with { Number = 5 }).Apply(split).Ok);
        Assert.Empty(Sessions.After(split, new RemoveUnit(new UnitId("u1"))).Steps);
    }

    [Theory]
    [InlineData(16, 16)]
    [InlineData(4, 16)]
    public void Where_a_stroke_is_shorter_than_a_tick_there_is_one_on_every_tick(int ticksPerQuarter, int strokes)
    {
        var writer = new PatternWriter(ticksPerQuarter, Tempo.Default, Metre.Common);
        writer.Hold(10, 36, 110, 0, 0.25);
        var split = Sessions.After(StartingSplit.Of([MudlarkNine.Chart], 4, 48000), new AddStep(new PerformedStep(Kick, StepKind.Roll, 1, 1.25, strokes)));
        Assert.Equal(
            Enumerable.Range(0, ticksPerQuarter).Select(i => ((Ticks)i, (Ticks)(i + 1))),
            Kicks(split, Song.Of(writer.ToFile("Fast", 4))).Select(n => (n.StartTick, n.EndTick)));
    }

    [Fact]
    public void Notes_that_are_kept_end_before_they_begin_again_and_stand_beside_tempo_and_metre_alone()
    {
        var (split, _) = Session();
        var laid = Layer.Propose(Sessions.View(split, Session().Song), new LayWish(HardPan: false) { Unity = true }).After;
        MidiEvent On(int tick) => MidiEvent.Message(tick, 0x90, 10, 36, 100);
        MidiEvent Off(int tick) => MidiEvent.Message(tick, 0x80, 10, 36, 0);
        var song = new MidiFile(1, TimeBase.Metrical(480),
        [
            [MidiEvent.Meta(0, MidiFile.TrackName, 65), Song.TempoEvent(0, Tempo.Default), MidiEvent.Meta(0, 0x01, 66), Song.MetreEvent(0, new Metre(3, 4)), MidiEvent.Message(0, 0xC0, 10, MidiFile.SetTempo), MidiEvent.Meta(1920, MidiFile.EndOfTrack)],
            [On(0), On(480), Off(480), Off(960), MidiEvent.Meta(960, MidiFile.EndOfTrack)],
        ]);
        var kept = NoteTracks.Of(song, Sessions.View(laid, Song.Of(song)));
        Assert.Equal([MidiFile.SetTempo, MidiFile.TimeSignature, MidiFile.EndOfTrack], kept.Tracks[0].Select(e => e.MetaType));
        Assert.Equal([(0, true), (480, false), (480, true), (960, false)], kept.Tracks[1][1..^1].Select(e => ((int)e.Tick.Count, e.IsNoteOn)));
        Assert.Equal(1920, kept.Tracks[1][^1].Tick);
    }

    private static IEnumerable<Note> Kicks(Split split, Song song) =>
        PerformedNotes.Of(split, split.Units[0], split.Units[0].Chart.Voices.First(v => v.Id.Value == "kick"), song);

    private static (Split Split, Song Song) Session(PerformedStep[] steps, params Action<PatternWriter>[] notes)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        foreach (var note in notes)
        {
            note(writer);
        }

        return (Sessions.After(StartingSplit.Of([MudlarkNine.Chart], 4, 48000), [.. steps.Select(s => new AddStep(s))]), Song.Of(writer.ToFile("Few", 4)));
    }

    private static IEnumerable<long> Starts(params PerformedStep[] steps) => Notes(steps).Select(n => n.StartTick.Count);

    private static IEnumerable<Note> Notes(params PerformedStep[] steps)
    {
        var (split, song) = Session(steps);
        return Kicks(split, song);
    }

    /// <summary>Kick on the four quarters of the first bar, the third of them softer, and on two of the second; a snare. Four bars.</summary>
    private static (Split Split, Song Song) Session(params PerformedStep[] steps)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var beat = 0; beat < 6; beat++)
        {
            writer.Hold(10, 36, beat == 2 ? 92 : 110, beat, 0.25);
        }

        writer.Hold(10, 38, 100, 2, 0.25);
        var split = StartingSplit.Of([MudlarkNine.Chart], 4, 48000);
        return (Sessions.After(split, [.. steps.Select(s => new AddStep(s))]), Song.Of(writer.ToFile("Few", 4)));
    }
}

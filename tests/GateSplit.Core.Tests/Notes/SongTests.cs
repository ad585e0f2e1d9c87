using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Notes;

/// <summary>What is made of the events of a file, and files at the edges of the standard.</summary>
public sealed class SongTests
{
    [Fact]
    public void Strokes_of_one_key_that_overlap_end_in_the_order_in_which_they_began()
    {
        var song = Of(On(0, 1, 60, 10), On(10, 1, 60, 20), On(20, 2, 60, 30), Off(30, 1, 60), Off(40, 2, 60), Off(50, 1, 60), Off(60, 1, 60));
        Assert.Equal([new Note(1, 60, 10, 0, 30), new Note(1, 60, 20, 10, 50), new Note(2, 60, 30, 20, 40)], song.Notes);
    }

    [Fact]
    public void Notes_stand_in_the_order_of_start_channel_and_key_and_the_song_ends_with_the_last_of_them()
    {
        var song = Of(On(0, 2, 50, 1), On(0, 1, 61, 1), On(0, 1, 60, 1), Off(1000, 1, 60), Off(1921, 1, 61), Off(10, 2, 50));
        Assert.Equal([(1, 60), (1, 61), (2, 50)], song.Notes.Select(n => (n.Channel, n.Key)));
        Assert.Equal(2, song.Bars);
        Assert.Equal(1, Of(On(0, 1, 60, 1), Off(1920, 1, 60)).Bars);
        Assert.Equal(1, Of().Bars);
    }

    [Fact]
    public void A_note_off_is_one_of_either_kind_and_nothing_else_is()
    {
        Assert.True(MidiEvent.Message(0, 0x80, 16, 60, 64) is { IsNoteOff: true, IsNoteOn: false, Channel: 16 });
        Assert.True(MidiEvent.Message(0, 0x90, 1, 60, 0) is { IsNoteOff: true, IsNoteOn: false, Channel: 1 });
        Assert.True(MidiEvent.Message(0, 0x90, 1, 60, 1) is { IsNoteOff: false, IsNoteOn: true });
        Assert.True(MidiEvent.Message(0, 0xB0, 1, 7, 0) is { IsNoteOff: false, IsNoteOn: false });
        Assert.True(MidiEvent.Message(0, 0xA0, 1, 60, 0) is { IsNoteOff: false, IsNoteOn: false });
    }

    [Theory]
    [InlineData(new byte[] { 7, 3, 24, 8 }, "7/8")]
    [InlineData(new byte[] { 1, 0, 24, 8 }, "1/1")]
    [InlineData(new byte[] { 3, 5, 24, 8 }, "3/32")]
    [InlineData(new byte[] { 3, 6, 24, 8 }, "4/4")]
    [InlineData(new byte[] { 0, 2, 24, 8 }, "4/4")]
    [InlineData(new byte[] { 3 }, "4/4")]
    public void A_metre_that_makes_no_sense_is_passed_over(byte[] data, string metre) =>
        Assert.Equal(metre, Of(MidiEvent.Meta(0, MidiFile.TimeSignature, data)).Metres.First.ToString());

    [Theory]
    [InlineData(new byte[] { 0x09, 0x27, 0xC0 }, 600_000, true)]
    [InlineData(new byte[] { 0, 0, 1 }, 1, true)]
    [InlineData(new byte[] { 0, 0, 0 }, 500_000, false)]
    [InlineData(new byte[] { 0x09, 0x27 }, 500_000, false)]
    [InlineData(new byte[] { 0x09, 0x27, 0xC0, 0 }, 500_000, false)]
    public void A_tempo_that_makes_no_sense_is_passed_over(byte[] data, int microseconds, bool said)
    {
        var song = Of(MidiEvent.Meta(0, MidiFile.SetTempo, data));
        Assert.Equal((new Tempo(microseconds), said), (song.Tempos.Tempos[0].Tempo, song.SaysTempo));
    }

    [Theory]
    [InlineData(666_667, 90.0, 1_024_000, 1_024_001)] // 90 rounds to it
    [InlineData(666_666, 90.0, 1_024_000, 1_023_999)] // 90 is cut to it
    [InlineData(500_000, 120.0, 768_000, 768_000)]
    [InlineData(652_174, 92.0, 1_001_739, 1_001_739)]
    [InlineData(575_540, 104.25, 884_029, 884_029)] // 60 / 104.25 s, 32 quarters: 884,028.78 frames, and 884,029.44 as the file has it
    [InlineData(666_668, null, 1_024_002, 1_024_002)]
    [InlineData(666_665, null, 1_023_997, 1_023_997)]
    [InlineData(16_777_215, null, 25_769_802, 25_769_802)]
    [InlineData(1, null, 2, 2)]
    public void One_tempo_that_a_file_rounds_is_the_tempo_that_was_typed(int microseconds, double? typed, long frames, long asWritten)
    {
        var song = Of(Song.TempoEvent(0, new Tempo(microseconds)));
        Assert.Equal(typed, song.TypedTempo);
        Frames Eight(Song read) => read.Tempos.ToFrames(read.Metres.BarStart(8), 48_000);
        Assert.Equal((frames, asWritten), (Eight(song).Count, Eight(song.Read(toTheMicrosecond: true)).Count));
        Assert.Equal(typed ?? 60_000_000.0 / microseconds, song.Tempos.StartTempo, 1e-9);
        Assert.Equal(60_000_000.0 / microseconds, song.Read(true).Tempos.StartTempo, 1e-9);
        Assert.Same(song, song.Read(false));
        Assert.Equal(frames, Eight(song.Read(true).Read(false)).Count);
    }

    [Fact]
    public void A_map_of_tempos_is_taken_to_the_microsecond()
    {
        Assert.Null(Of(Song.TempoEvent(0, new Tempo(666_667)), Song.TempoEvent(480, new Tempo(652_174))).TypedTempo);
        Assert.Null(Of(Song.TempoEvent(480, new Tempo(666_667))).TypedTempo); // 120 before it
        Assert.Null(Song.Of(new MidiFile(0, TimeBase.Smpte(25, 40), [[Song.TempoEvent(0, new Tempo(666_667)), MidiEvent.Meta(9, MidiFile.EndOfTrack)]])).TypedTempo);
        Assert.Null(Of().TypedTempo);
    }

    [Fact]
    public void Tempos_and_metres_are_written_as_the_standard_has_them()
    {
        Assert.Equal([0x09, 0x27, 0xC0], Song.TempoEvent(5, new Tempo(600_000)).Data);
        Assert.Equal([0x12, 0x34, 0x56], Song.TempoEvent(5, new Tempo(0x123456)).Data);
        Assert.Equal([6, 3, 24, 8], Song.MetreEvent(5, new Metre(6, 8)).Data);
        Assert.Equal(((Ticks)5, (byte)0xFF, MidiFile.TimeSignature), (Song.MetreEvent(5, new Metre(6, 8)).Tick, Song.MetreEvent(5, new Metre(6, 8)).Status, Song.MetreEvent(5, new Metre(6, 8)).MetaType));
    }

    [Fact]
    public void A_new_tempo_stands_first_and_leaves_everything_else()
    {
        var file = new MidiFile(
            1,
            TimeBase.Metrical(480),
            [[MidiEvent.Meta(0, MidiFile.TrackName, 65), Song.TempoEvent(0, new Tempo(1)), End(9)], [Song.TempoEvent(4, new Tempo(2)), On(5, 1, 60, 1), End(9)]]);
        var changed = Song.WithTempo(file, new Tempo(600_000));
        Assert.Equal([MidiFile.SetTempo, MidiFile.TrackName, MidiFile.EndOfTrack], changed.Tracks[0].Select(e => e.MetaType));
        Assert.Equal([5, 9], changed.Tracks[1].Select(e => e.Tick));
        Assert.Equal(100, Song.Of(changed).Tempos.StartTempo);
    }

    [Theory]
    [InlineData(24, 10, 120)]
    [InlineData(25, 40, 500)]
    [InlineData(29, 100, 1500)]
    [InlineData(30, 80, 1200)]
    [InlineData(24, 1, 12)]
    public void In_time_of_frames_a_quarter_lasts_half_a_second(int format, int ticksPerFrame, int quarter)
    {
        var time = TimeBase.Smpte(format, ticksPerFrame);
        Assert.Equal((quarter, true, format, ticksPerFrame), (time.TicksPerQuarter, time.IsSmpte, time.SmpteFormat, time.TicksPerFrame));
        Assert.Equal(120, new TempoMap(time, [(0, new Tempo(1))]).StartTempo);
        Assert.Empty(new TempoMap(time, [(0, new Tempo(1))]).Tempos);
        Assert.False(TimeBase.Metrical(quarter).IsSmpte);
    }

    [Theory]
    [InlineData(0, 1, 96, 6, null)]
    [InlineData(2, 1, 96, 6, "type 2")]
    [InlineData(3, 1, 96, 6, "type 3, which does not exist (byte 8)")]
    [InlineData(1, 4097, 96, 6, "4097 tracks; 4096 is the most that is read (byte 10)")]
    [InlineData(1, 4096, 96, 6, "should have 4096 tracks and ends at byte")]
    [InlineData(1, 0, 96, 6, "has no tracks")]
    [InlineData(0, 1, 0, 6, "how long a tick is (byte 12)")]
    [InlineData(0, 1, 0xE728, 6, null)] // 25 frames of 40
    [InlineData(0, 1, 0xE228, 6, null)]
    [InlineData(0, 1, 0xE828, 6, null)]
    [InlineData(0, 1, 0xE328, 6, null)]
    [InlineData(0, 1, 0xE628, 6, "how long a tick is")] // 26 frames
    [InlineData(0, 1, 0xE700, 6, "how long a tick is")]
    [InlineData(0, 1, 0x7FFF, 6, null)]
    [InlineData(0, 1, 96, 5, "5 bytes long, which cannot be (byte 4)")]
    [InlineData(0, 1, 96, 8, null)] // a longer head is passed over
    [InlineData(0, 1, 96, 200, "200 bytes long, which cannot be (byte 4)")]
    public void The_head_is_read_or_told_with_its_byte(int format, int tracks, int division, int length, string? words)
    {
        byte[] head = [.. "MThd"u8, 0, 0, 0, (byte)length, 0, (byte)format, (byte)(tracks >> 8), (byte)tracks, (byte)(division >> 8), (byte)division, .. new byte[length == 8 ? 2 : 0]];
        var read = MidiReader.Read([.. head, .. "MTrk"u8, 0, 0, 0, 4, 0, 0xFF, 0x2F, 0]);
        Assert.True(words is null ? read.Ok : read.Trouble?.Contains(words, StringComparison.Ordinal) == true, read.Trouble);
    }

    [Fact]
    public void Strange_chunks_are_passed_over_and_nothing_is_read_behind_the_last_track()
    {
        byte[] track = [.. "MTrk"u8, 0, 0, 0, 4, 0, 0xFF, 0x2F, 0];
        byte[] head = [.. "MThd"u8, 0, 0, 0, 6, 0, 1, 0, 2, 0, 96];
        var read = MidiReader.Read([.. head, .. "XXXX"u8, 0, 0, 0, 3, 1, 2, 3, .. track, .. track, 1, 2, 3]);
        Assert.Equal(2, read.Value!.Tracks.Length);
        Assert.Contains("is cut off at byte 29, in the head of a track", MidiReader.Read([.. head, .. track, 1, 2, 3]).Trouble);
        Assert.Contains("the track at byte 14 should be 9 bytes long, and the file ends at byte 26", MidiReader.Read([.. head, .. "MTrk"u8, 0, 0, 0, 9, 0, 0xFF, 0x2F, 0]).Trouble);
    }

    [Theory]
    [InlineData(new byte[] { 0, 0xC5, 7, 0, 0xD5, 8, 0, 0xE5, 1, 2 }, 3)] // one byte, one byte, two
    [InlineData(new byte[] { 0, 0xC5, 7, 0, 8 }, 2)] // running status with one byte
    [InlineData(new byte[] { 0, 0xF0, 2, 1, 0xF7, 0, 0xF7, 0 }, 2)]
    [InlineData(new byte[] { 0, 0x90, 60, 0x80 }, -1)] // a data byte has seven bits
    [InlineData(new byte[] { 0, 0x90, 0x80, 60 }, -1)]
    [InlineData(new byte[] { 0, 0x90, 60 }, -1)]
    [InlineData(new byte[] { 0, 60, 60 }, -1)] // no status to run on
    [InlineData(new byte[] { 0, 0xF1, 0 }, -1)]
    [InlineData(new byte[] { 0, 0xF0, 3, 1 }, -1)]
    [InlineData(new byte[] { 0, 0xFF }, -1)]
    [InlineData(new byte[] { 0, 0xFF, 1 }, -1)]
    [InlineData(new byte[] { 0 }, -1)]
    [InlineData(new byte[] { 0x80 }, -1)]
    public void Events_are_as_long_as_their_kind_and_a_track_without_an_end_ends(byte[] body, int events)
    {
        var read = MidiReader.Read([.. "MThd"u8, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, .. "MTrk"u8, 0, 0, 0, (byte)body.Length, .. body]);
        Assert.Equal(events, read.Ok ? read.Value.Tracks[0].Length - 1 : -1);
        Assert.True(!read.Ok || read.Value.Tracks[0][^1] is { Status: 0xFF, MetaType: MidiFile.EndOfTrack });
    }

    [Fact]
    public void What_stands_behind_the_end_of_a_track_is_not_read()
    {
        byte[] body = [0, 0xFF, 0x2F, 0, 0, 0x90, 60, 60];
        Assert.Single(MidiReader.Read([.. "MThd"u8, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, .. "MTrk"u8, 0, 0, 0, 8, .. body]).Value!.Tracks[0]);
    }

    [Fact]
    public void Hits_have_the_strength_of_their_sign_and_a_flam_begins_no_earlier_than_the_song()
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var bar = 0; bar < 400; bar++)
        {
            writer.Hits(10, 36, bar, "gxXf");
        }

        var notes = Song.Of(writer.ToFile("many", 400)).Notes;
        int[] Of(int step) => [.. notes.Where(n => n.StartTick.Count % 1920 == step * 480).Select(n => n.Velocity).Distinct().Order()];
        Assert.Equal(Enumerable.Range(32, 13), Of(0)); // 38, give or take 6
        Assert.Equal(Enumerable.Range(82, 13), Of(1));
        Assert.Equal(Enumerable.Range(110, 13), Of(2));
        Assert.Equal(Enumerable.Range(98, 13), Of(3));
        Assert.All(notes.Where(n => n.StartTick.Count % 1920 == 1410), n => Assert.Equal((52, 120), (n.Velocity, (int)(n.EndTick - n.StartTick).Count)));
        Assert.Equal(400, notes.Count(n => n.StartTick.Count % 1920 == 1410));
        Assert.All(notes.Where(n => n.StartTick.Count % 480 == 0), n => Assert.Equal(240, n.EndTick - n.StartTick));

        var first = new PatternWriter(480, Tempo.Default, Metre.Common);
        first.Hits(10, 36, 0, "f...");
        Assert.Equal([0, 0], Song.Of(first.ToFile("first", 1)).Notes.Select(n => n.StartTick));
    }

    [Fact]
    public void A_file_has_a_track_a_channel_and_ends_with_its_bars_or_its_last_note()
    {
        var writer = new PatternWriter(480, new Tempo(400_000), new Metre(3, 4));
        writer.Hold(3, 60, 200, 1, 0.0001);
        writer.Hold(1, 60, 0, 0, 1);
        writer.Hold(1, 60, 90, 1, 9);
        var file = writer.ToFile("Two", 2);
        Assert.Equal(3, file.Tracks.Length);
        Assert.Equal([2880, 4800, 2880], file.Tracks.Select(t => t[^1].Tick));
        Assert.Equal("Two", System.Text.Encoding.ASCII.GetString([.. file.Tracks[0][0].Data]));

        // A stroke ends before the next of its key begins.
        Assert.Equal([(0, true), (480, false), (480, true), (4800, false)], file.Tracks[1].SkipLast(1).Select(e => (e.Tick, e.IsNoteOn)));
        Assert.Equal([new Note(1, 60, 1, 0, 480), new Note(1, 60, 90, 480, 4800), new Note(3, 60, 127, 480, 481)], Song.Of(file).Notes);
        Assert.Equal(1440, writer.TicksPerBar);
    }

    private static MidiEvent On(Ticks tick, int channel, byte key, byte velocity) => MidiEvent.Message(tick, 0x90, channel, key, velocity);

    private static MidiEvent Off(Ticks tick, int channel, byte key) => MidiEvent.Message(tick, 0x80, channel, key, 0);

    private static MidiEvent End(Ticks tick) => MidiEvent.Meta(tick, MidiFile.EndOfTrack);

    private static Song Of(params MidiEvent[] events) => Song.Of(new MidiFile(0, TimeBase.Metrical(480), [[.. events, End(events.Length == 0 ? 0 : events[^1].Tick)]]));
}

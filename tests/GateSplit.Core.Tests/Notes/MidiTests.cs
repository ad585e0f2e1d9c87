using System.Buffers.Binary;
using System.Numerics;
using CsCheck;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Notes;

public sealed class MidiTests
{
    private static readonly byte[] ByHand =
    [
        .. "MThd"u8, 0, 0, 0, 6, 0, 1, 0, 2, 0, 96,
        .. "MTrk"u8, 0, 0, 0, 19,
        0, 0xFF, 0x58, 4, 6, 3, 24, 8, // 6/8
        0, 0xFF, 0x51, 3, 0x07, 0xA1, 0x20, // 500,000 microseconds a quarter
        0, 0xFF, 0x2F, 0,
        .. "MTrk"u8, 0, 0, 0, 22,
        0, 0x99, 36, 100, // channel 10
        0x81, 0x40, 36, 0, // running status, velocity 0 ends it, after 192 ticks
        0, 38, 90,
        0x60, 38, 0,
        10, 0xB9, 7, 100,
        0, 0xFF, 0x2F, 0,
    ];

    [Fact]
    public void A_file_written_by_hand_is_read()
    {
        var song = Song.Of(MidiReader.Read(ByHand).Value!);
        Assert.Equal([new Note(10, 36, 100, 0, 192), new Note(10, 38, 90, 192, 288)], song.Notes);
        Assert.Equal(new Metre(6, 8), song.Metres.First);
        Assert.Equal(120, song.Tempos.StartTempo);
        Assert.Equal(1, song.Bars); // 288 ticks are one bar of 6/8 at 96 to the quarter
    }

    [Fact]
    public void No_cut_and_no_changed_byte_makes_it_throw_and_every_refusal_is_a_sentence()
    {
        for (var length = 0; length < ByHand.Length; length++)
        {
            var result = MidiReader.Read(ByHand.AsSpan(0, length));
            Assert.False(result.Ok, $"cut at {length}");
            Assert.EndsWith(".", result.Trouble);
        }

        Gen.Select(Gen.Int[0, ByHand.Length - 1], Gen.Byte).Array[1, 4].Sample(changes =>
        {
            var bytes = (byte[])ByHand.Clone();
            foreach (var (at, value) in changes)
            {
                bytes[at] = value;
            }

            var result = MidiReader.Read(bytes);
            if (result.Ok)
            {
                _ = Song.Of(result.Value).Bars;
            }
        });
    }

    [Fact]
    public void A_file_cut_in_half_is_told_with_the_byte_where_it_ends()
    {
        var bytes = MidiWriter.Write(DemoSessions.All[0].Song);
        var result = MidiReader.Read(bytes.AsSpan(0, bytes.Length / 2));
        Assert.Contains($"ends at byte {bytes.Length / 2}", result.Trouble);
    }

    [Fact]
    public void Midicsv_reads_what_was_written_note_by_note()
    {
        using var folder = new TempFolder();
        var file = DemoSessions.All[1].Song;
        var lines = Programs.Run("midicsv", folder.Write("song.mid", MidiWriter.Write(file))).Split('\n');
        var theirs = lines.Where(l => l.Contains("Note_on_c")).Select(l => string.Join(' ', l.Split(", ")[1..])).Order();
        var ours = file.Tracks.SelectMany(t => t).Where(e => e.IsNoteOn).Select(e => $"{e.Tick} Note_on_c {e.Channel - 1} {e.Data[0]} {e.Data[1]}").Order();
        Assert.Equal(ours, theirs);
        Assert.Contains(lines, l => l.Contains("Tempo, 652174")); // 60,000,000 / 92
    }

    [Fact]
    public void Written_and_read_again_it_is_the_same()
    {
        foreach (var session in DemoSessions.All)
        {
            var back = MidiReader.Read(MidiWriter.Write(session.Song)).Value!;
            Assert.Equal(MidiWriter.Write(session.Song), MidiWriter.Write(back));
            Assert.Equal(Song.Of(session.Song).Notes, Song.Of(back).Notes);
        }
    }

    [Fact]
    public void Positions_agree_with_exact_fractions()
    {
        var changes = Gen.Select(Gen.Long[0, 200_000], Gen.Int[1, 16_777_215]).Array[0, 20];
        Gen.Select(Gen.Int[1, 32767], changes, Gen.Long[0, 300_000], Gen.OneOf(Gen.Const(44100), Gen.Const(48000), Gen.Const(96000))).Sample((tpq, list, tick, rate) =>
        {
            var map = new TempoMap(TimeBase.Metrical(tpq), list.Select(c => (new Ticks(c.Item1), new Tempo(c.Item2))));
            var microseconds = BigInteger.Zero; // times ticks per quarter
            var tempo = 500_000;
            long from = 0;
            foreach (var (at, next) in list.Select((c, i) => (c, i)).OrderBy(c => c.c.Item1).ThenBy(c => c.i).Select(c => c.c).Where(c => c.Item1 <= tick))
            {
                microseconds += new BigInteger(at - from) * tempo;
                (from, tempo) = (at, next);
            }

            microseconds += new BigInteger(tick - from) * tempo;
            var denominator = new BigInteger(tpq) * 1_000_000;
            var expected = BigInteger.Divide(microseconds * rate * 2 + denominator, denominator * 2);
            return map.ToFrames(new(tick), rate).Count == (long)expected;
        });
    }

    [Theory]
    [InlineData(25, 40, 1000, 48000)] // 1000 ticks of 1/1000 s
    [InlineData(30, 100, 3000, 48000)]
    [InlineData(29, 100, 3000, 48048)] // 30 drop-frame runs 1001/1000 slower
    public void Smpte_time_is_counted_in_frames(int format, int ticksPerFrame, long tick, long samples)
    {
        var map = new TempoMap(TimeBase.Smpte(format, ticksPerFrame), []);
        Assert.Equal(samples, map.ToFrames(new(tick), 48000).Count);
        var file = new MidiFile(0, TimeBase.Smpte(format, ticksPerFrame), [[MidiEvent.Meta(0, MidiFile.EndOfTrack)]]);
        Assert.Equal(file.TimeBase, MidiReader.Read(MidiWriter.Write(file)).Value!.TimeBase);
    }

    [Fact]
    public void Bars_follow_the_changes_of_metre()
    {
        // Two bars of 4/4, then 7/8; at 480 ticks a quarter.
        var map = new MetreMap(480, [(0, new Metre(4, 4)), (3840, new Metre(7, 8))]);
        Assert.Equal([0, 1920, 3840, 5520, 7200], Enumerable.Range(0, 5).Select(b => map.BarStart(b)));
        Assert.Equal(0, map.BarsUntil(0));
        Assert.Equal(1, map.BarsUntil(1920));
        Assert.Equal(2, map.BarsUntil(1921));
        Assert.Equal(3, map.BarsUntil(5520));
        Assert.Equal(4, map.BarsUntil(5521));
    }

    [Fact]
    public void A_bar_that_is_cut_short_by_a_change_of_metre_is_a_bar()
    {
        // A bar and a half of 4/4, then 3/4 from tick 2880 on.
        var map = new MetreMap(480, [(2880, new Metre(3, 4))]);
        Assert.Equal([0, 1920, 2880, 4320], Enumerable.Range(0, 4).Select(b => map.BarStart(b)));
        Assert.Equal([4, 4, 3], Enumerable.Range(0, 3).Select(b => map.MetreOf(b).Beats));
        Assert.Equal([1, 2, 2, 2, 3, 3, 4], new Ticks[] { 1920, 1921, 2879, 2880, 2881, 4320, 4321 }.Select(map.BarsUntil));
    }

    [Fact]
    public void Of_two_metres_at_one_tick_the_last_holds_and_one_at_the_start_is_the_first()
    {
        var map = new MetreMap(480, [(0, new Metre(3, 4)), (1440, new Metre(5, 4)), (1440, new Metre(2, 4))]);
        Assert.Equal([(0, new Metre(3, 4)), (1440, new Metre(2, 4))], map.Changes);
        Assert.Equal([0, 1440, 2400], Enumerable.Range(0, 3).Select(b => map.BarStart(b)));
    }

    [Theory]
    [InlineData(0, true, "a meta event")]
    [InlineData(0, false, "system exclusive")]
    public void Running_status_ends_with(int delta, bool meta, string what)
    {
        byte[] between = meta ? [0xFF, 0x01, 0] : [0xF0, 1, 0xF7];
        byte[] body = [0, 0x90, 60, 90, (byte)delta, .. between, 0, 60, 0, 0, 0xFF, 0x2F, 0];
        var read = MidiReader.Read([.. "MThd"u8, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, .. "MTrk"u8, 0, 0, 0, (byte)body.Length, .. body]);
        Assert.True(!read.Ok && read.Trouble.Contains($"byte {22 + 4 + 1 + between.Length + 1}", StringComparison.Ordinal), what + read.Trouble);
    }

    [Theory]
    [InlineData(6, 0, 0, "The MIDI file has no tracks.")]
    [InlineData(7, 0, 0, "The MIDI file's header says it is 7 bytes long, which cannot be (byte 4).")]
    [InlineData(5, 1, 0, "The MIDI file's header says it is 5 bytes long, which cannot be (byte 4).")]
    [InlineData(6, 1, 0, "The MIDI file should have 1 track and ends at byte 14 after 0.")]
    [InlineData(6, 1, 7, "The MIDI file is cut off at byte 21, in the head of a track.")]
    [InlineData(6, 1, 11, "The MIDI file is cut off: the track at byte 14 should be 4 bytes long, and the file ends at byte 25.")]
    [InlineData(6, 1, 12, null)]
    public void A_file_is_read_as_far_as_its_chunks_say(int head, int tracks, int follow, string? trouble)
    {
        byte[] track = [.. "MTrk"u8, 0, 0, 0, 4, 0, 0xFF, 0x2F, 0];
        var file = MidiReader.Read([.. "MThd"u8, 0, 0, 0, (byte)head, 0, 0, 0, (byte)tracks, 0, 96, .. track[..follow]]);
        Assert.Equal(trouble, file.Ok ? null : file.Trouble);
    }

    [Theory]
    [InlineData(0xF0, "F0-03-01-02-F7")]
    [InlineData(0xF7, "F7-03-01-02-F7")]
    [InlineData(0xEF, "EF-01-02")]
    public void System_exclusive_events_say_how_long_they_are_and_channel_messages_do_not(int status, string bytes)
    {
        byte[] data = status < 0xF0 ? [1, 2] : [1, 2, 0xF7];
        var file = new MidiFile(0, TimeBase.Metrical(96), [[new MidiEvent(0, (byte)status, 0, [.. data]), MidiEvent.Meta(0, MidiFile.EndOfTrack)]]);
        Assert.Equal($"00-{bytes}-00-FF-2F-00", BitConverter.ToString(MidiWriter.Write(file)[22..]));
        var read = MidiReader.Read(MidiWriter.Write(file)).Value!.Tracks[0][0];
        Assert.Equal(data, read.Data);
        Assert.Equal((0, (byte)status, (byte)0), (read.Tick, read.Status, read.MetaType));
    }

    [Theory]
    [InlineData(0x90, 0x7F, 0x7F, true)]
    [InlineData(0x90, 0x80, 0x7F, false)]
    [InlineData(0x90, 0x7F, 0x80, false)]
    [InlineData(0xC0, 0x7F, null, true)]
    [InlineData(0xC0, 0x80, null, false)]
    public void A_byte_of_data_has_seven_bits(int status, int first, int? second, bool read)
    {
        byte[] body = [0, (byte)status, (byte)first, .. second is { } last ? new[] { (byte)last } : [], 0, 0xFF, 0x2F, 0];
        var file = MidiReader.Read([.. "MThd"u8, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, .. "MTrk"u8, 0, 0, 0, (byte)body.Length, .. body]);
        Assert.Equal(read, file.Ok);
        Assert.Equal(read ? 2 : null, file.Value?.Tracks[0].Length);
    }

    [Theory]
    [InlineData(0x7F, "7F")]
    [InlineData(0x80, "81-00")]
    [InlineData(0x3FFF, "FF-7F")]
    [InlineData(0x4000, "81-80-00")]
    [InlineData(0x1FFFFF, "FF-FF-7F")]
    [InlineData(0x200000, "81-80-80-00")]
    [InlineData(0x0FFFFFFF, "FF-FF-FF-7F")]
    public void A_time_is_written_as_the_standard_lists_it(long ticks, string bytes)
    {
        var file = new MidiFile(0, TimeBase.Metrical(96), [[MidiEvent.Meta(new(ticks), MidiFile.EndOfTrack)]]);
        Assert.Equal($"{bytes}-FF-2F-00", BitConverter.ToString(MidiWriter.Write(file)[22..]));
        Assert.Equal(new Ticks(ticks), MidiReader.Read(MidiWriter.Write(file)).Value!.Tracks[0][^1].Tick);
    }

    [Theory]
    [InlineData(0x10000000L)]
    [InlineData(0x10000000L * 5 + 3)]
    public void A_time_longer_than_four_bytes_hold_comes_back_too(long ticks)
    {
        var file = new MidiFile(0, TimeBase.Metrical(96), [[MidiEvent.Message(new(ticks), 0x90, 1, 60, 70), MidiEvent.Meta(new(2 * ticks), MidiFile.EndOfTrack)]]);
        Assert.Equal([new Note(1, 60, 70, new(ticks), new(2 * ticks))], Song.Of(MidiReader.Read(MidiWriter.Write(file)).Value!).Notes);
    }

    [Fact]
    public void A_time_of_five_bytes_is_refused()
    {
        byte[] body = [0x81, 0x80, 0x80, 0x80, 0, 0xFF, 0x2F, 0];
        Assert.Contains("longer than four bytes", MidiReader.Read([.. "MThd"u8, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, .. "MTrk"u8, 0, 0, 0, (byte)body.Length, .. body]).Trouble);
    }

    [Fact]
    public void A_note_that_never_ends_lasts_to_the_end_of_its_track()
    {
        var file = new MidiFile(0, TimeBase.Metrical(96), [[MidiEvent.Message(10, 0x90, 3, 60, 70), MidiEvent.Meta(500, MidiFile.EndOfTrack)]]);
        Assert.Equal([new Note(3, 60, 70, 10, 500)], Song.Of(file).Notes);
    }

    [Fact]
    public void A_new_tempo_replaces_all_others()
    {
        var song = Song.Of(Song.WithTempo(DemoSessions.All[0].Song, Tempo.FromQuartersPerMinute(100)));
        Assert.Equal((0, new Tempo(600_000)), Assert.Single(song.Tempos.Tempos));
    }

    [Theory]
    [InlineData(MidiReader.MostEvents, 0, true)]
    [InlineData(MidiReader.MostEvents + 1, 0, false)]
    [InlineData(MidiReader.MostEvents - 10, 10, true)]
    [InlineData(MidiReader.MostEvents - 10, 11, false)]
    public void As_many_events_are_read_as_is_told_and_they_take_memory_in_proportion(int first, int second, bool fits)
    {
        byte[] Track(int events)
        {
            // A note in each tick, on and off in turn, with running status: three bytes an event.
            byte[] body = [0, 0x90, 60, 100, .. Enumerable.Range(1, Math.Max(0, events - 2)).SelectMany(i => new byte[] { 1, 60, (byte)(i % 2 == 0 ? 100 : 0) }), 0, 0xFF, 0x2F, 0];
            var length = new byte[4];
            BinaryPrimitives.WriteInt32BigEndian(length, body.Length);
            return [.. "MTrk"u8, .. length, .. body];
        }

        byte[] bytes = [.. "MThd"u8, 0, 0, 0, 6, 0, 1, 0, (byte)(second > 0 ? 2 : 1), 0, 96, .. Track(first), .. second > 0 ? Track(second) : []];
        var before = GC.GetAllocatedBytesForCurrentThread();
        var read = MidiReader.Read(bytes);
        Assert.Equal(fits, read.Ok);
        if (!fits)
        {
            Assert.Contains("more than 500,000 events, which is the most that is read", read.Trouble);
            return;
        }

        _ = Song.Of(read.Value!).Bars;
        Assert.InRange(GC.GetAllocatedBytesForCurrentThread() - before, 0, 100L * bytes.Length);
    }
}

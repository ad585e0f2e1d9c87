using System.Buffers.Binary;
using System.Text;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

/// <summary>Files of other kinds become WAVE, sample by sample what ffmpeg reads from them; names of channels are read from strangers' files.</summary>
public sealed class SoundFileTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("a.aiff", "pcm_s16be", "s16le")]
    [InlineData("b.aiff", "pcm_s24be", "s24le")]
    [InlineData("c.aiff", "pcm_s32be", "s32le")]
    [InlineData("d.flac", "flac -sample_fmt s16", "s16le")]
    [InlineData("e.flac", "flac -sample_fmt s32 -bits_per_raw_sample 24", "s24le")]
    [InlineData("f.aif", "pcm_f32be", "f32le")]
    [InlineData("g.caf", "pcm_s24le", "s24le")]
    [InlineData("h.aif", "pcm_s16le", "s16le")] // AIFF-C, its samples turned round
    [InlineData("i.aif", "pcm_f64be", "f64le")]
    [InlineData("j.w64", "pcm_s16le", "s16le")]
    [InlineData("k.w64", "pcm_s24le", "s24le")]
    [InlineData("l.w64", "pcm_f32le", "f32le")]
    public void Every_sample_is_what_another_program_reads(string name, string codec, string format)
    {
        var from = _folder[name];
        Programs.Run("ffmpeg", ["-v", "error", "-f", "lavfi", "-i", "anoisesrc=d=0.7:r=48000:a=0.8", "-f", "lavfi", "-i", "sine=330:d=0.7:r=48000", "-filter_complex", "amerge", "-c:a", .. codec.Split(' '), from]);
        var to = _folder[name + ".wav"];
        Assert.False(SoundFile.IsWave(from));
        Assert.Empty(SoundFile.ToWave(from, to).Value!);
        Assert.True(SoundFile.IsWave(to));
        using var wave = WaveReader.Open(to).Value!;
        var shape = SoundFile.Describe(from).Value!;
        Assert.Equal((wave.Format, (Frames?)wave.Frames, 0), (shape.Format, shape.Frames, shape.Remarks.Length));
        Assert.Equal((2, 48000, format.StartsWith('f'), int.Parse(format[1..3])), (wave.Format.Channels, wave.Format.SampleRate, wave.Format.IsFloat, wave.Format.BitsPerSample));
        var ours = new byte[wave.Format.Bytes(wave.Frames).Count];
        wave.Read(0, ours);
        Assert.Equal(Programs.Decode(from, format), ours);
    }

    [Fact]
    public void What_a_wave64_file_holds_is_found_behind_a_chunk_that_ends_before_a_whole_eight()
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=0.1:r=48000", "-c:a", "pcm_f32le", _folder["a.w64"]);
        var bytes = File.ReadAllBytes(_folder["a.w64"]);
        var chunk = new byte[32]; // 29 that it says, and three that fill it up
        bytes.AsSpan(40, 16).CopyTo(chunk);
        "junk"u8.CopyTo(chunk);
        BinaryPrimitives.WriteInt64LittleEndian(chunk.AsSpan(16), 29);
        File.WriteAllBytes(_folder["b.w64"], [.. bytes[..40], .. chunk, .. bytes[40..]]);
        Assert.Equal((true, 4800L), SoundFile.Describe(_folder["b.w64"]).Value is { } shape ? (shape.Format.IsFloat, shape.Frames!.Value.Count) : default);
    }

    [Theory]
    [InlineData(16, 0)]
    [InlineData(192, 2)]
    [InlineData(1000, 5)]
    [InlineData(4608, 8)]
    [InlineData(65535, 8)]
    public void A_stream_is_read_whatever_its_blocks_and_however_hard_it_was_pressed(int block, int level)
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "anoisesrc=d=3:r=48000:a=0.3", "-c:a", "pcm_s24le", _folder["in.wav"]);
        Programs.Run("flac", "-s", "--lax", $"-{level}", $"--blocksize={block}", "--padding=70000", "-T", "TITLE=Kick", "-o", _folder["in.flac"], _folder["in.wav"]);
        Assert.Empty(SoundFile.ToWave(_folder["in.flac"], _folder["out.wav"]).Value!);
        Assert.Equal(Programs.Decode(_folder["in.wav"], "s24le"), Programs.Decode(_folder["out.wav"], "s24le"));
    }

    [Fact]
    public void What_is_no_sound_or_has_lost_some_is_told()
    {
        File.WriteAllText(_folder["text.flac"], "This is no sound at all.");
        Assert.Equal("This is no sound file that can be read here: WAVE, RF64, AIFF, FLAC, CAF and Wave64 are.", SoundFile.ToWave(_folder["text.flac"], _folder["x.wav"]).Trouble);
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=0.2:r=48000", "-c:a", "libvorbis", _folder["lossy.ogg"]);
        Assert.StartsWith("This file is compressed with loss", SoundFile.ToWave(_folder["lossy.ogg"], _folder["x.wav"]).Trouble!, StringComparison.Ordinal);
        Assert.Empty(Directory.GetFiles(_folder[""], "x.wav*"));
    }

    [Theory]
    [InlineData("a.aiff", "pcm_s16be", "s16le", "should hold 2.00 s")]
    [InlineData("b.flac", "flac -sample_fmt s16", "s16le", "should hold 2.00 s")]
    [InlineData("c.w64", "pcm_s16le", "s16le", "should hold 2.00 s")]
    [InlineData("d.caf", "pcm_s16be", "s16le", "should hold 2.00 s")]
    public void A_file_that_is_cut_off_is_read_as_far_as_it_goes_and_told(string name, string codec, string format, string words)
    {
        Programs.Run("ffmpeg", ["-v", "error", "-f", "lavfi", "-i", "sine=330:d=2:r=48000", "-c:a", .. codec.Split(' '), _folder[name]]);
        var whole = File.ReadAllBytes(_folder[name]);
        var samples = Programs.Decode(_folder[name], format);
        File.WriteAllBytes(_folder["half-" + name], whole[..(whole.Length / 2)]);
        Assert.Contains("The file is cut off", Assert.Single(SoundFile.Describe(_folder["half-" + name]).Value!.Remarks));
        var remark = Assert.Single(SoundFile.ToWave(_folder["half-" + name], _folder["half.wav"]).Value!);
        Assert.StartsWith("The file is cut off: it ", remark, StringComparison.Ordinal);
        Assert.Contains(words, remark);
        using var half = WaveReader.Open(_folder["half.wav"]).Value!;
        var read = new byte[half.Frames.Count * 2];
        half.Read(0, read);
        Assert.InRange(half.Frames.Count, 30_000, 65_000);
        Assert.Equal(samples[..read.Length], read);
    }

    [Theory]
    [InlineData(-1)]
    [InlineData(0)]
    public void A_core_audio_file_that_its_recorder_never_ended_is_read_to_its_end_and_told(long size)
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=1:r=48000", "-c:a", "pcm_s24le", _folder["whole.caf"]);
        var samples = Programs.Decode(_folder["whole.caf"], "s24le");
        var bytes = File.ReadAllBytes(_folder["whole.caf"]);
        BinaryPrimitives.WriteInt64BigEndian(bytes.AsSpan(bytes.AsSpan().LastIndexOf("data"u8) + 4), size);

        // It ends within a frame, and with it the file.
        File.WriteAllBytes(_folder["open.caf"], bytes[..(bytes.Length - 301)]);
        Assert.Equal(48_000 - 101, SoundFile.Describe(_folder["open.caf"]).Value!.Frames!.Value.Count);
        var remark = Assert.Single(SoundFile.ToWave(_folder["open.caf"], _folder["open.wav"]).Value!);
        Assert.StartsWith("The file does not say how long it is", remark, StringComparison.Ordinal);
        Assert.Equal([remark], SoundFile.Describe(_folder["open.caf"]).Value!.Remarks);
        using var wave = WaveReader.Open(_folder["open.wav"]).Value!;
        var read = new byte[wave.Frames.Count * 3];
        wave.Read(0, read);
        Assert.Equal(samples[..read.Length], read);
        Assert.Equal(48_000 - 101, wave.Frames.Count);
        Assert.Equal(bytes[..(bytes.Length - 301)], File.ReadAllBytes(_folder["open.caf"]));
    }

    [Fact]
    public void A_core_audio_file_without_a_sample_is_told()
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=1:r=48000", "-c:a", "pcm_s24le", _folder["whole.caf"]);
        var bytes = File.ReadAllBytes(_folder["whole.caf"]);
        var data = bytes.AsSpan().LastIndexOf("data"u8);
        BinaryPrimitives.WriteInt64BigEndian(bytes.AsSpan(data + 4), 4);
        File.WriteAllBytes(_folder["none.caf"], bytes[..(data + 16)]);
        Assert.Equal(0, SoundFile.Describe(_folder["none.caf"]).Value!.Frames!.Value.Count);
        Assert.Empty(SoundFile.Describe(_folder["none.caf"]).Value!.Remarks);
    }

    [Fact]
    public void A_stream_that_was_never_told_its_length_is_read_whole_and_nothing_is_said()
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=0.5:r=48000", "-c:a", "flac", "-sample_fmt", "s16", _folder["known.flac"]);
        var bytes = File.ReadAllBytes(_folder["known.flac"]);

        // STREAMINFO: 36 bits of total samples end 18 bytes behind the head of the block; 0 is unknown.
        bytes[21] &= 0xF0;
        bytes.AsSpan(22, 4).Clear();
        File.WriteAllBytes(_folder["unknown.flac"], bytes);
        Assert.Null(SoundFile.Describe(_folder["unknown.flac"]).Value!.Frames);
        Assert.Empty(SoundFile.ToWave(_folder["unknown.flac"], _folder["unknown.wav"]).Value!);
        using var wave = WaveReader.Open(_folder["unknown.wav"]).Value!;
        Assert.Equal(24_000, wave.Frames.Count);
    }

    [Fact]
    public void A_stream_that_says_it_is_longer_than_it_can_be_takes_no_more_room_than_it_needs_and_is_told()
    {
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=330:d=0.5:r=48000", "-c:a", "flac", "-sample_fmt", "s16", _folder["known.flac"]);
        var bytes = File.ReadAllBytes(_folder["known.flac"]);
        bytes[21] |= 0x0F;
        bytes.AsSpan(22, 4).Fill(0xFF);
        File.WriteAllBytes(_folder["endless.flac"], bytes);
        var shape = SoundFile.Describe(_folder["endless.flac"]).Value!;
        Assert.Null(shape.Frames);
        Assert.Equal(["The file says it is longer than it can be; it was read as far as it goes."], shape.Remarks);
        Assert.Equal(shape.Remarks, SoundFile.ToWave(_folder["endless.flac"], _folder["endless.wav"]).Value!);
        using var wave = WaveReader.Open(_folder["endless.wav"]).Value!;
        Assert.Equal(24_000, wave.Frames.Count);
    }

    [Theory]
    [InlineData("<BWFXML><TRACK_LIST><TRACK><CHANNEL_INDEX>9</CHANNEL_INDEX><INTERLEAVE_INDEX>1</INTERLEAVE_INDEX><NAME>Kick in</NAME></TRACK><TRACK><CHANNEL_INDEX>2</CHANNEL_INDEX><NAME> Snare </NAME></TRACK></TRACK_LIST></BWFXML>", "1 Kick in, 2 Snare")]
    [InlineData("<BWFXML><TRACK_LIST><TRACK><CHANNEL_INDEX>0</CHANNEL_INDEX><NAME>None</NAME></TRACK><TRACK><CHANNEL_INDEX>999</CHANNEL_INDEX><NAME>None</NAME></TRACK><TRACK><NAME>None</NAME></TRACK></TRACK_LIST></BWFXML>", "")]
    [InlineData("<!DOCTYPE a [<!ENTITY x SYSTEM \"file:///etc/passwd\">]><BWFXML><TRACK><CHANNEL_INDEX>1</CHANNEL_INDEX><NAME>&x;</NAME></TRACK></BWFXML>", "")]
    [InlineData("<BWFXML><TRACK_LIST>", "")]
    [InlineData("", "")]
    public void Names_of_channels_are_read_from_iXML_and_from_nothing_else(string xml, string names)
    {
        var path = _folder["named.wav"];
        using (var writer = new WaveWriter(path, new AudioFormat(2, 48000, SampleFormat.Pcm24), 101, null))
        {
            writer.Write(new byte[101 * 6]);
            writer.Finish();
            writer.TakeName();
        }

        // Behind the samples, as recorders write it.
        var body = Encoding.UTF8.GetBytes(xml);
        using (var file = new FileStream(path, FileMode.Append))
        {
            file.Write("iXML"u8);
            var size = new byte[4];
            BinaryPrimitives.WriteInt32LittleEndian(size, body.Length);
            file.Write(size);
            file.Write(body);
        }

        Assert.Equal(names, string.Join(", ", Names(path).OrderBy(n => n.Key).Select(n => $"{n.Key} {n.Value}")));
    }

    private static IReadOnlyDictionary<int, string> Names(string path)
    {
        using var wave = WaveReader.Open(path).Value!;
        return ChannelNames.Read(wave);
    }
}

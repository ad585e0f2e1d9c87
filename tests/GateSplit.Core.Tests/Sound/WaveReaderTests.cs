using System.Buffers.Binary;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

public sealed class WaveReaderTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("u8", "pcm_u8", SampleFormat.Pcm8, "u8")]
    [InlineData("s16", "pcm_s16le", SampleFormat.Pcm16, "s16le")]
    [InlineData("s24", "pcm_s24le", SampleFormat.Pcm24, "s24le")]
    [InlineData("s32", "pcm_s32le", SampleFormat.Pcm32, "s32le")]
    [InlineData("f32", "pcm_f32le", SampleFormat.Float32, "f32le")]
    [InlineData("f64", "pcm_f64le", SampleFormat.Float64, "f64le")]
    public void Reads_what_ffmpeg_wrote(string name, string codec, SampleFormat sample, string raw)
    {
        var path = _folder[name + ".wav"];
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "aevalsrc=0.5*sin(440*2*PI*t)|0.3*sin(997*2*PI*t)|0.1:s=44100:d=0.31", "-c:a", codec, path);
        using var reader = WaveReader.Open(path).Value!;
        Assert.Equal(new AudioFormat(3, 44100, sample), reader.Format);
        Assert.Equal(13671, reader.Frames);
        Assert.Empty(reader.Remarks);
        Assert.Equal(Programs.Decode(path, raw), All(reader));
    }

    [Fact]
    public void Reads_what_sox_wrote_and_ffmpegs_rf64()
    {
        Programs.Run("sox", "-n", "-r", "96000", "-b", "24", "-c", "2", _folder["sox.wav"], "synth", "0.2", "sine", "300", "sine", "400");
        using (var reader = WaveReader.Open(_folder["sox.wav"]).Value!)
        {
            Assert.Equal(new AudioFormat(2, 96000, SampleFormat.Pcm24), reader.Format);
            Assert.Equal(19200, reader.Frames);
        }

        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "sine=r=48000:d=0.25", "-rf64", "always", "-c:a", "pcm_s16le", _folder["rf64.wav"]);
        Assert.Equal("RF64"u8.ToArray(), File.ReadAllBytes(_folder["rf64.wav"])[..4]);
        using var rf64 = WaveReader.Open(_folder["rf64.wav"]).Value!;
        Assert.Equal(12000, rf64.Frames);
        Assert.Empty(rf64.Remarks);
    }

    [Fact]
    public void Twenty_bits_in_twenty_four_are_read_as_they_are_stored()
    {
        // More than two channels are WAVE_FORMAT_EXTENSIBLE, which says how many of the stored bits are valid.
        Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "aevalsrc=0.5*sin(440*2*PI*t)|0.3*sin(997*2*PI*t)|0.1:s=44100:d=0.1", "-c:a", "pcm_s24le", _folder["24.wav"]);
        var bytes = File.ReadAllBytes(_folder["24.wav"]);
        Assert.Equal(24, BinaryPrimitives.ReadUInt16LittleEndian(bytes.AsSpan(38)));
        BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan(38), 20);
        using var reader = WaveReader.Open(_folder.Write("20.wav", bytes)).Value!;
        Assert.Equal((SampleFormat.Pcm24, 4410L, 0), (reader.Format.Sample, reader.Frames.Count, reader.Remarks.Length));
        Assert.Equal(Programs.Decode(_folder["24.wav"], "s24le"), All(reader));
    }

    [Fact]
    public void Passes_over_unknown_chunks_of_odd_length()
    {
        var bytes = Wave(format: Format(1, 8000, 2, 16), data: [1, 0, 2, 0], before: [.. "odd "u8, 3, 0, 0, 0, 9, 9, 9, 0]);
        using var reader = WaveReader.Open(_folder.Write("odd.wav", bytes)).Value!;
        Assert.Equal([1, 0, 2, 0], All(reader));
        Assert.Empty(reader.Remarks);
    }

    [Fact]
    public void A_truncated_file_is_read_as_far_as_it_goes_and_told()
    {
        var whole = Wave(Format(1, 8000, 2, 16), new byte[16000]);
        using var reader = WaveReader.Open(_folder.Write("cut.wav", whole.AsSpan(0, 44 + 6001))).Value!;
        Assert.Equal(3000, reader.Frames);
        Assert.Contains(reader.Remarks, r => r.Contains("cut off: it should hold 1.00 s and holds 0.38 s"));
        Assert.Contains(reader.Remarks, r => r.Contains("last frame is not whole; 1 byte"));
    }

    [Theory]
    [InlineData(0u)]
    [InlineData(0xFFFFFFFFu)]
    public void What_a_crashed_recorder_left_is_read_to_the_end(uint size)
    {
        var bytes = Wave(Format(2, 48000, 4, 16), [.. Enumerable.Range(1, 400).Select(i => (byte)(i % 7 + 128))]);
        BinaryPrimitives.WriteUInt32LittleEndian(bytes.AsSpan(40), size);
        BinaryPrimitives.WriteUInt32LittleEndian(bytes.AsSpan(4), size);
        using var reader = WaveReader.Open(_folder.Write("crash.wav", bytes)).Value!;
        Assert.Equal(100, reader.Frames);
        Assert.Single(reader.Remarks);
    }

    [Theory]
    [InlineData("RF64", 0)] // as a recorder begins it
    [InlineData("BW64", 0)]
    [InlineData("RF64", long.MaxValue)]
    [InlineData("BW64", -1)]
    [InlineData("RF64", 1L << 51)]
    public void A_length_that_was_never_written_costs_no_sample(string kind, long told)
    {
        byte[] samples = [.. Enumerable.Range(1, 400).Select(i => (byte)(i % 7 + 128))];
        using var reader = WaveReader.Open(_folder.Write("crash.wav", Large(kind, told, samples))).Value!;
        Assert.Equal(samples, All(reader));
        Assert.Contains("all that follows was read as samples", Assert.Single(reader.Remarks));
        Assert.Empty(ChannelNames.Read(reader));
    }

    [Fact]
    public void A_large_file_that_holds_nothing_is_empty_and_one_cut_short_is_told()
    {
        using var empty = WaveReader.Open(_folder.Write("empty.wav", [.. Large("RF64", 0, []), .. "LIST"u8, 4, 0, 0, 0, .. "INFO"u8])).Value!;
        Assert.Equal((0, 0), (empty.Frames.Count, empty.Remarks.Length));
        using var cut = WaveReader.Open(_folder.Write("cut.wav", Large("RF64", 192_000, new byte[400]))).Value!;
        Assert.Equal(100, cut.Frames);
        Assert.Contains("should hold 1.00 s and holds 0.00 s", Assert.Single(cut.Remarks));
    }

    /// <summary>The table of ds64 tells the size of a chunk that does not fit into 32 bits; here one before the samples.</summary>
    [Fact]
    public void Other_large_chunks_are_passed_over_by_the_table()
    {
        var body = new byte[10];
        byte[] ds64 = [.. "ds64"u8, 40, 0, 0, 0, .. Long(0), .. Long(4), .. Long(2), 1, 0, 0, 0, .. "big "u8, .. Long(body.Length)];
        byte[] bytes = [.. "RF64"u8, 0xFF, 0xFF, 0xFF, 0xFF, .. "WAVE"u8, .. ds64, .. "big "u8, 0xFF, 0xFF, 0xFF, 0xFF, .. body, .. Wave(Format(1, 8000, 2, 16), [1, 0, 2, 0])[12..]];
        using var reader = WaveReader.Open(_folder.Write("table.wav", bytes)).Value!;
        Assert.Equal([1, 0, 2, 0], All(reader));
        Assert.Empty(reader.Remarks);
    }

    [Fact]
    public void A_file_of_nothing_but_chunks_is_left_after_a_few_thousand()
    {
        byte[] small = [.. "junk"u8, 0, 0, 0, 0];
        byte[] many = [.. Enumerable.Repeat(small, 5000).SelectMany(c => c)];
        Assert.Contains("more than 4096 chunks before its samples", WaveReader.Open(_folder.Write("before.wav", Wave(Format(1, 8000, 2, 16), [1, 0], many))).Trouble);

        // Behind a data chunk of size 0 it is no chain of chunks any more, but what a crashed recorder left.
        using var reader = WaveReader.Open(_folder.Write("behind.wav", [.. Wave(Format(1, 8000, 2, 16), []), .. many])).Value!;
        Assert.Equal(many.Length / 2, reader.Frames.Count);
        Assert.Null(reader.Chunk("iXML", 100));
        using var fewer = WaveReader.Open(_folder.Write("fewer.wav", [.. Wave(Format(1, 8000, 2, 16), []), .. many[..(4096 * 8)]])).Value!;
        Assert.Equal(0, fewer.Frames.Count);
    }

    [Theory]
    [InlineData(340_000, "")]
    [InlineData(20, "")]
    [InlineData(10, "Kick")]
    public void Names_are_read_from_as_deep_as_recorders_write_them(int depth, string name)
    {
        var xml = string.Concat(Enumerable.Repeat("<a>", depth)) + "<TRACK><CHANNEL_INDEX>1</CHANNEL_INDEX><NAME>Kick</NAME></TRACK>" + string.Concat(Enumerable.Repeat("</a>", depth));
        var body = System.Text.Encoding.ASCII.GetBytes(xml[..Math.Min(xml.Length, 1 << 20)]);
        byte[] size = new byte[4];
        BinaryPrimitives.WriteInt32LittleEndian(size, body.Length);
        using var reader = WaveReader.Open(_folder.Write("deep.wav", [.. Wave(Format(1, 8000, 2, 16), [1, 0]), .. "iXML"u8, .. size, .. body])).Value!;
        Assert.Equal(name, ChannelNames.Read(reader).GetValueOrDefault(1, ""));
    }

    [Theory]
    [InlineData(32, 4)]
    [InlineData(64, 5)]
    public void What_is_no_number_is_counted_and_told_and_taken_as_0(int bits, int count)
    {
        double[] values = [0.5, double.NaN, double.PositiveInfinity, -0.25, double.NegativeInfinity, double.NaN, 1e300, float.MaxValue];
        byte[] data = [.. values.Where(v => bits == 64 || v < 1e300 || !double.IsFinite(v)).SelectMany(v => bits == 32 ? BitConverter.GetBytes((float)v) : BitConverter.GetBytes(v))];
        using var reader = WaveReader.Open(_folder.Write("wild.wav", Wave(Format(1, 48000, bits / 8, bits, tag: 3), data))).Value!;
        var measure = FileMeasure.Of(reader);
        Assert.Equal($"{count} samples are no number, infinite, or beyond what 32-bit floats hold: taken as 0 wherever it is heard, measured or converted.", Assert.Single(measure.Remarks));
        Assert.Equal(20 * Math.Log10(float.MaxValue), measure.Channels[0].SamplePeak.Value, 1e-3);
    }

    [Fact]
    public void An_empty_data_chunk_followed_by_another_chunk_is_really_empty()
    {
        byte[] bytes = [.. Wave(Format(1, 8000, 2, 16), []), .. "LIST"u8, 4, 0, 0, 0, .. "INFO"u8];
        using var reader = WaveReader.Open(_folder.Write("empty.wav", bytes)).Value!;
        Assert.Equal(0, reader.Frames);
        Assert.Empty(reader.Remarks);
    }

    public static TheoryData<byte[], string> Bad => new()
    {
        { [], "empty" },
        { "RIF"u8.ToArray(), "3 bytes" },
        { "Dear diary, today I recorded nothing at all."u8.ToArray(), "not a WAVE file" },
        { [.. "RIFX"u8, 0, 0, 0, 0, .. "WAVE"u8], "big-endian" },
        { Wave(Format(0, 48000, 0, 16), [1, 2]), "no channels" },
        { Wave(Format(300, 48000, 600, 16), [1, 2]), "300 channels" },
        { Wave(Format(1, 0, 2, 16), [1, 2]), "sample rate is 0" },
        { Wave(Format(1, 500_000, 2, 16), [1, 2]), "500000 Hz" },
        { Wave(Format(1, 48000, 5, 40), [1, 2]), "40 bits" },
        { Wave(Format(1, 48000, 1, 4, tag: 17), [1, 2]), "format 17" },
        { Wave(Format(1, 48000, 2, 16), [])[..36], "no data chunk" },
        { [.. "RIFF"u8, 4, 0, 0, 0, .. "WAVE"u8], "no fmt chunk" },
        { [.. "RIFF"u8, 40, 0, 0, 0, .. "WAVE"u8, .. "data"u8, 2, 0, 0, 0, 1, 1], "before the fmt chunk" },
    };

    [Theory]
    [MemberData(nameof(Bad))]
    public void A_file_that_cannot_be_read_is_told_with_a_sentence(byte[] bytes, string words)
    {
        var result = WaveReader.Open(_folder.Write("bad.wav", bytes));
        Assert.False(result.Ok);
        Assert.Contains(words, result.Trouble);
        Assert.EndsWith(".", result.Trouble);
    }

    [Fact]
    public void No_single_changed_byte_of_a_header_makes_it_throw()
    {
        var good = Wave(Format(2, 48000, 4, 16), new byte[64]);
        for (var i = 0; i < 44; i++)
        {
            foreach (var value in new byte[] { 0, 1, 0x7F, 0x80, 0xFF })
            {
                var bytes = (byte[])good.Clone();
                bytes[i] = value;
                var result = WaveReader.Open(_folder.Write("fuzz.wav", bytes));
                if (result.Ok)
                {
                    Assert.InRange(result.Value.Frames.Count, 0, 64);
                    result.Value.Dispose();
                }
            }
        }
    }

    private static byte[] All(WaveReader reader)
    {
        var bytes = new byte[reader.Format.Bytes(reader.Frames).Count];
        Assert.Equal(reader.Frames, reader.Read(0, bytes));
        return bytes;
    }

    private static byte[] Format(int channels, int rate, int align, int bits, int tag = 1)
    {
        var body = new byte[16];
        BinaryPrimitives.WriteUInt16LittleEndian(body, (ushort)tag);
        BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(2), (ushort)channels);
        BinaryPrimitives.WriteInt32LittleEndian(body.AsSpan(4), rate);
        BinaryPrimitives.WriteInt32LittleEndian(body.AsSpan(8), rate * align);
        BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(12), (ushort)align);
        BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(14), (ushort)bits);
        return body;
    }

    private static byte[] Wave(byte[] format, byte[] data, byte[]? before = null)
    {
        before ??= [];
        var size = new byte[4];
        BinaryPrimitives.WriteInt32LittleEndian(size, data.Length);
        return [.. "RIFF"u8, 255, 255, 0, 0, .. "WAVE"u8, .. before, .. "fmt "u8, 16, 0, 0, 0, .. format, .. "data"u8, .. size, .. data];
    }

    private static byte[] Long(long value)
    {
        var bytes = new byte[8];
        BinaryPrimitives.WriteInt64LittleEndian(bytes, value);
        return bytes;
    }

    /// <summary>Two channels of 16 bits with a ds64 chunk that tells the size of the samples.</summary>
    private static byte[] Large(string kind, long told, byte[] samples) =>
    [
        .. System.Text.Encoding.ASCII.GetBytes(kind), 0xFF, 0xFF, 0xFF, 0xFF, .. "WAVE"u8, .. "ds64"u8, 28, 0, 0, 0, .. Long(0), .. Long(told), .. Long(0), 0, 0, 0, 0,
        .. Wave(Format(2, 48000, 4, 16), [])[12..36], .. "data"u8, 0xFF, 0xFF, 0xFF, 0xFF, .. samples,
    ];
}

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
}

using System.Buffers.Binary;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

public sealed class WaveWriterTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(SampleFormat.Pcm16, 1, "pcm_s16le")]
    [InlineData(SampleFormat.Pcm24, 1, "pcm_s24le")]
    [InlineData(SampleFormat.Pcm24, 6, "pcm_s24le")]
    [InlineData(SampleFormat.Float32, 2, "pcm_f32le")]
    public void Ffmpeg_and_sox_read_what_was_written(SampleFormat sample, int channels, string codec)
    {
        var format = new AudioFormat(channels, 48000, sample);
        var bytes = new byte[1001 * format.BytesPerFrame];
        for (var channel = 0; channel < channels; channel++)
        {
            var samples = Enumerable.Range(0, 1001).Select(i => MathF.Sin(i * 0.05f * (channel + 1)) * 0.7f).ToArray();
            SampleCodec.Encode(samples, format, channel, bytes);
        }

        var path = _folder["out.wav"];
        Save(path, format, 1001, bytes);
        var probe = Programs.Run("ffprobe", "-v", "error", "-show_entries", "stream=codec_name,sample_rate,channels:format_tags", "-of", "default=nw=1", path);
        Assert.Contains($"codec_name={codec}", probe);
        Assert.Contains($"channels={channels}", probe);
        Assert.Contains("sample_rate=48000", probe);
        Assert.Contains("comment=Kick of the box", probe);
        Assert.Contains("date=2026-01-02", probe);
        Assert.Equal(bytes, Programs.Decode(path, codec["pcm_".Length..]));
        Assert.Equal("1001", Programs.Run("soxi", "-s", path).Trim());
    }

    [Fact]
    public void Over_4_GiB_it_is_RF64_and_ffmpeg_knows_its_length()
    {
        var format = new AudioFormat(2, 48000, SampleFormat.Pcm24);
        const long frames = 800_000_000;
        var header = WaveHeader.Build(format, new(frames), null);
        Assert.Equal("RF64"u8.ToArray(), header[..4]);
        var path = _folder.Write("large.wav", header);
        using (var file = File.OpenWrite(path))
        {
            file.SetLength(header.Length + frames * 6); // sparse: no disk is used
        }

        using var reader = WaveReader.Open(path).Value!;
        Assert.Equal(frames, reader.Frames.Count);
        Assert.Empty(reader.Remarks);
        var seconds = double.Parse(Programs.Run("ffprobe", "-v", "error", "-show_entries", "format=duration", "-of", "csv=p=0", path));
        Assert.Equal(frames / 48000.0, seconds, 3);
    }

    [Fact]
    public void The_last_length_that_fits_RIFF_is_RIFF_and_one_frame_more_is_not()
    {
        var format = new AudioFormat(1, 48000, SampleFormat.Pcm16);
        var fits = (uint.MaxValue - 8 - 36) / 2;
        Assert.Equal("RIFF"u8.ToArray(), WaveHeader.Build(format, new(fits), null)[..4]);
        Assert.Equal("RF64"u8.ToArray(), WaveHeader.Build(format, new(fits + 1), null)[..4]);
    }

    [Fact]
    public void The_bext_chunk_is_version_2_with_loudness_unset()
    {
        var body = new BroadcastInfo("Glöckchen", new DateTime(2026, 11, 23, 4, 5, 6), new(12345678901), "A=PCM\r\n").ToBytes();
        Assert.Equal(602 + 7, body.Length);
        Assert.Equal("Gl?ckchen"u8.ToArray(), body[..9]);
        Assert.Equal("2026-11-2304:05:06"u8.ToArray(), body[320..338]);
        Assert.Equal(12345678901, BinaryPrimitives.ReadInt64LittleEndian(body.AsSpan(338)));
        Assert.Equal(2, BinaryPrimitives.ReadInt16LittleEndian(body.AsSpan(346)));
        Assert.All(Enumerable.Range(0, 5), i => Assert.Equal(0x7FFF, BinaryPrimitives.ReadInt16LittleEndian(body.AsSpan(412 + 2 * i))));
    }

    [Fact]
    public void A_file_that_is_not_finished_never_has_its_name()
    {
        var format = new AudioFormat(1, 48000, SampleFormat.Pcm16);
        using (var writer = new WaveWriter(_folder["x.wav"], format, 10, null))
        {
            writer.Write(new byte[18]);
            Assert.Throws<InvalidOperationException>(writer.Finish);
            Assert.Equal(["x.wav.part"], _folder.Names);
        }

        Assert.Empty(_folder.Names);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(3001)]
    [InlineData(131072)]
    [InlineData(300000)]
    public void In_pieces_of_whatever_length_the_file_is_header_and_samples(int part)
    {
        var format = new AudioFormat(1, 48000, SampleFormat.Pcm16);
        var samples = new byte[part == 1 ? 30_000 : 900_000];
        new Random(3).NextBytes(samples);
        byte[] expected = [.. WaveHeader.Build(format, samples.Length / 2, null), .. samples];
        using (var writer = new WaveWriter(_folder["copied.wav"], format, samples.Length / 2, null))
        {
            foreach (var bytes in samples.Chunk(part))
            {
                writer.Write(bytes);
            }

            writer.Finish();
            writer.TakeName();
        }

        using (var writer = new WaveWriter(_folder["filled.wav"], format, samples.Length / 2, null))
        {
            foreach (var bytes in samples.Chunk(part))
            {
                bytes.CopyTo(writer.GetSpan(bytes.Length));
                writer.Advance(bytes.Length);
            }

            writer.Finish();
            writer.TakeName();
        }

        Assert.Equal(expected, File.ReadAllBytes(_folder["copied.wav"]));
        Assert.Equal(expected, File.ReadAllBytes(_folder["filled.wav"]));
    }

    [Theory]
    [InlineData(7)]
    [InlineData(200_001)]
    public void A_recording_that_ends_early_is_as_long_as_what_was_written(int frames)
    {
        var format = new AudioFormat(1, 48000, SampleFormat.Pcm24);
        var samples = new byte[3 * frames];
        new Random(4).NextBytes(samples);
        using (var writer = new WaveWriter(_folder["short.wav"], format, 400_000, null))
        {
            writer.Write(samples);
            writer.FinishEarly();
            writer.TakeName();
        }

        Assert.Equal([.. WaveHeader.Build(format, new(frames), null), .. samples, 0], File.ReadAllBytes(_folder["short.wav"]));
    }

    private static void Save(string path, AudioFormat format, long frames, byte[] bytes)
    {
        using var writer = new WaveWriter(path, format, new(frames), new FileLabel(new BroadcastInfo("Kick of the box", new DateTime(2026, 1, 2))));
        writer.Write(bytes);
        writer.Finish();
        writer.TakeName();
    }
}

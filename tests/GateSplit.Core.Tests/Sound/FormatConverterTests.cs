using System.Buffers.Binary;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

public sealed class FormatConverterTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(SampleFormat.Pcm16, SampleFormat.Pcm16, false)]
    [InlineData(SampleFormat.Pcm24, SampleFormat.Pcm24, false)]
    [InlineData(SampleFormat.Pcm24, SampleFormat.Float32, false)]
    [InlineData(SampleFormat.Pcm24, SampleFormat.Pcm16, true)]
    [InlineData(SampleFormat.Float32, SampleFormat.Pcm16, true)]
    public void Only_what_becomes_16_bit_is_dithered(SampleFormat from, SampleFormat to, bool dithered)
    {
        // A constant of 100.5 steps of 16 bit (which 16 bit itself holds as 101) stays constant unless noise is added.
        var samples = Enumerable.Repeat((float)((from == SampleFormat.Pcm16 ? 101 : 100.5) / 32768), 1000).ToArray();
        var format = new AudioFormat(1, 48000, from);
        var bytes = new byte[samples.Length * format.BytesPerFrame];
        SampleCodec.Encode(samples, format, 0, bytes);
        using (var writer = new WaveWriter(_folder["from.wav"], format, samples.Length, null))
        {
            writer.Write(bytes);
            writer.Finish();
            writer.TakeName();
        }

        using (var reader = WaveReader.Open(_folder["from.wav"]).Value!)
        {
            File.WriteAllBytes(
                _folder["to.wav"],
                [.. Containers.Wave.Pieces(reader, new AudioFormat(1, 48000, to), new FileLabel(new BroadcastInfo("B", new DateTime(2026, 1, 1))), _folder.Path).SelectMany(b => b.ToArray())]);
        }

        var read = Recorded.Samples(_folder["to.wav"]);
        Assert.Equal(dithered, read.Distinct().Count() > 1);
        Assert.Equal(samples.Average(), read.Average(), dithered ? 2e-6f : 0);
    }

    [Theory]
    [InlineData(3)]
    [InlineData(4)]
    public void A_file_is_padded_to_an_even_length_and_as_long_as_it_says(int frames)
    {
        using (var writer = new WaveWriter(_folder["from.wav"], new AudioFormat(1, 48000, SampleFormat.Float32), frames, null))
        {
            writer.Write(new byte[4 * frames]);
            writer.Finish();
            writer.TakeName();
        }

        using var reader = WaveReader.Open(_folder["from.wav"]).Value!;
        byte[] file = [.. Containers.Wave.Pieces(reader, new AudioFormat(1, 48000, SampleFormat.Pcm24), new FileLabel(new BroadcastInfo("B", new DateTime(2026, 1, 1))), _folder.Path).SelectMany(b => b.ToArray())];
        Assert.Equal(0, file.Length % 2);
        Assert.Equal(file.Length, BinaryPrimitives.ReadInt32LittleEndian(file.AsSpan(4)) + 8);
    }
}

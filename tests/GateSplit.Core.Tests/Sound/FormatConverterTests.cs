using System.Buffers.Binary;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

public sealed class FormatConverterTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

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
        byte[] file = [.. FormatConverter.Convert(reader, Containers.Wave, new AudioFormat(1, 48000, SampleFormat.Pcm24), new BroadcastInfo("B", new DateTime(2026, 1, 1))).SelectMany(b => b.ToArray())];
        Assert.Equal(0, file.Length % 2);
        Assert.Equal(file.Length, BinaryPrimitives.ReadInt32LittleEndian(file.AsSpan(4)) + 8);
    }
}

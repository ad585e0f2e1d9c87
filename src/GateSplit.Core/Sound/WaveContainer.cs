using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>WAVE, and RF64 where it is longer than 4 GiB: read by <see cref="WaveReader"/>.</summary>
public sealed class WaveContainer : IContainer
{
    /// <inheritdoc/>
    public string Id => "wave";

    /// <inheritdoc/>
    public string Name => "";

    /// <inheritdoc/>
    public string Ending => ".wav";

    /// <inheritdoc/>
    public ImmutableArray<SampleFormat> Samples => [SampleFormat.Pcm16, SampleFormat.Pcm24, SampleFormat.Float32];

    /// <inheritdoc/>
    public int MostChannels => AudioFormat.MostChannels;

    /// <inheritdoc/>
    public Bytes AtMost(AudioFormat format, Frames frames, FileLabel? label) => WaveHeader.Build(format, frames, label).Length + format.Bytes(frames) + Foot(format, frames).Length;

    /// <inheritdoc/>
    public IEnumerable<ReadOnlyMemory<byte>> Pieces(IRecording from, AudioFormat format, FileLabel? label, string folder)
    {
        yield return WaveHeader.Build(format, from.Frames, label);
        foreach (var samples in FormatConverter.Convert(from, format))
        {
            yield return samples;
        }

        yield return Foot(format, from.Frames);
    }

    /// <summary>A chunk of an odd number of bytes is followed by one more (RIFF).</summary>
    private static byte[] Foot(AudioFormat format, Frames frames) => (format.Bytes(frames).Count & 1) == 1 ? [0] : [];
}

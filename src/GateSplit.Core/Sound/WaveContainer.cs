using System.Buffers;
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
    public byte[] Head(AudioFormat format, Frames frames, BroadcastInfo? broadcast) => WaveHeader.Build(format, frames, broadcast);

    /// <inheritdoc/>
    public void Body(AudioFormat format, ReadOnlySpan<byte> frames, IBufferWriter<byte> to) => to.Write(frames);

    /// <summary>A chunk of an odd number of bytes is followed by one more (RIFF).</summary>
    public byte[] Foot(AudioFormat format, Frames frames) => (format.Bytes(frames).Count & 1) == 1 ? [0] : [];
}

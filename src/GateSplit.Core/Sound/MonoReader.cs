using System.Buffers;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A recording heard as one channel: the mean of all, or one of them; nothing before its start and behind its end. Several threads may read at once.</summary>
/// <param name="reader">The recording; stays the caller's.</param>
/// <param name="channel">0-based; null for the mean of all.</param>
public sealed class MonoReader(IRecording reader, int? channel = null) : IMonoSound
{
    /// <inheritdoc/>
    public Frames Frames => reader.Frames;

    /// <inheritdoc/>
    public SampleRate Rate => reader.Format.SampleRate;

    /// <inheritdoc/>
    public void Read(long start, Span<float> into)
    {
        into.Clear();
        var (first, end) = (Math.Max(0, start), Math.Min(reader.Frames.Count, start + into.Length));
        if (end <= first)
        {
            return;
        }

        var format = reader.Format;
        var bytes = ArrayPool<byte>.Shared.Rent((int)(end - first) * format.BytesPerFrame);
        var frames = reader.Read(new Frames(first), bytes.AsSpan(0, (int)(end - first) * format.BytesPerFrame));
        var wanted = into.Slice((int)(first - start), frames);
        if (channel is { } only)
        {
            SampleCodec.Decode(bytes, format, only, wanted);
        }
        else
        {
            var one = ArrayPool<float>.Shared.Rent(frames);
            for (var c = 0; c < format.Channels; c++)
            {
                SampleCodec.Decode(bytes, format, c, one.AsSpan(0, frames));
                TensorPrimitives.MultiplyAdd(one.AsSpan(0, frames), 1f / format.Channels, wanted, wanted);
            }

            ArrayPool<float>.Shared.Return(one);
        }

        ArrayPool<byte>.Shared.Return(bytes);
    }
}

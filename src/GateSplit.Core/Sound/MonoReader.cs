using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A file heard as one channel: the mean of all, or one of them; nothing before its start and behind its end.</summary>
/// <param name="reader">The open file; stays the caller's.</param>
/// <param name="channel">0-based; null for the mean of all.</param>
public sealed class MonoReader(WaveReader reader, int? channel = null)
{
    private byte[] _bytes = [];
    private float[] _one = [];

    /// <summary>Its length.</summary>
    public Frames Frames => reader.Frames;

    /// <summary>Frames a second.</summary>
    public SampleRate Rate => reader.Format.SampleRate;

    /// <summary>Reads a stretch, which may lie outside the file.</summary>
    /// <param name="start">Its first frame; may be before the file.</param>
    /// <param name="into">Receives it.</param>
    public void Read(long start, Span<float> into)
    {
        into.Clear();
        var (first, end) = (Math.Max(0, start), Math.Min(reader.Frames.Count, start + into.Length));
        if (end <= first)
        {
            return;
        }

        var format = reader.Format;
        var needed = (int)(end - first) * format.BytesPerFrame;
        if (_bytes.Length < needed)
        {
            (_bytes, _one) = (new byte[needed], new float[end - first]);
        }

        var frames = reader.Read(new Frames(first), _bytes.AsSpan(0, needed));
        var wanted = into.Slice((int)(first - start), frames);
        if (channel is { } only)
        {
            SampleCodec.Decode(_bytes, format, only, wanted);
            return;
        }

        var one = _one.AsSpan(0, frames);
        for (var c = 0; c < format.Channels; c++)
        {
            SampleCodec.Decode(_bytes, format, c, one);
            TensorPrimitives.MultiplyAdd(one, 1f / format.Channels, wanted, wanted);
        }
    }
}

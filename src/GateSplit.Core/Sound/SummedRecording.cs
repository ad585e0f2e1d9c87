using System.Collections.Immutable;
using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Recordings of one sample rate that begin together, added up in stereo while they are read, as 32 bit float. Not for several threads.</summary>
public sealed class SummedRecording : IRecording
{
    private const int BlockFrames = 8192;
    private readonly ImmutableArray<Part> _parts;
    private readonly float[] _left = new float[BlockFrames];
    private readonly float[] _right = new float[BlockFrames];
    private readonly float[] _samples = new float[BlockFrames];
    private byte[] _bytes = [];

    /// <summary>Begins with nothing read.</summary>
    /// <param name="sampleRate">That of all parts.</param>
    /// <param name="parts">What is added up; as long as the longest.</param>
    public SummedRecording(SampleRate sampleRate, ImmutableArray<Part> parts)
    {
        _parts = parts;
        Format = new AudioFormat(2, sampleRate, SampleFormat.Float32);
        Frames = parts.Select(p => p.From.Frames).DefaultIfEmpty().Max();
    }

    /// <inheritdoc/>
    public AudioFormat Format { get; }

    /// <inheritdoc/>
    public Frames Frames { get; }

    /// <inheritdoc/>
    public int Read(Frames startFrame, Span<byte> into)
    {
        var size = Format.BytesPerFrame;
        var count = (int)Math.Clamp((Frames - startFrame).Count, 0, into.Length / size);
        for (var done = 0; done < count; done += BlockFrames)
        {
            var frames = Math.Min(BlockFrames, count - done);
            Add(startFrame + done, frames);
            var bytes = into.Slice(done * size, frames * size);
            SampleCodec.Encode(_left.AsSpan(0, frames), Format, 0, bytes);
            SampleCodec.Encode(_right.AsSpan(0, frames), Format, 1, bytes);
        }

        return count;
    }

    private void Add(Frames at, int frames)
    {
        _left.AsSpan(0, frames).Clear();
        _right.AsSpan(0, frames).Clear();
        foreach (var part in _parts)
        {
            var format = part.From.Format;
            Array.Resize(ref _bytes, Math.Max(_bytes.Length, frames * format.BytesPerFrame));
            var read = part.From.Frames <= at ? 0 : part.From.Read(at, _bytes.AsSpan(0, frames * format.BytesPerFrame));
            for (var channel = 0; channel < Math.Min(2, format.Channels); channel++)
            {
                var samples = _samples.AsSpan(0, read);
                SampleCodec.Decode(_bytes.AsSpan(0, read * format.BytesPerFrame), format, channel, samples);
                Into(_left.AsSpan(0, read), samples, part.Left[channel]);
                Into(_right.AsSpan(0, read), samples, part.Right[channel]);
            }
        }
    }

    private static void Into(Span<float> sum, ReadOnlySpan<float> samples, double gain)
    {
        if (gain != 0)
        {
            TensorPrimitives.MultiplyAdd(samples, (float)gain, sum, sum);
        }
    }

    /// <summary>One of the recordings.</summary>
    /// <param name="From">It.</param>
    /// <param name="Left">What the left side takes of each of its channels.</param>
    /// <param name="Right">What the right side takes.</param>
    public sealed record Part(IRecording From, ImmutableArray<double> Left, ImmutableArray<double> Right);
}

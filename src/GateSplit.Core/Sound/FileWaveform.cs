using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A file as it is drawn: from its overview as long as that is fine enough, and from its samples where it is not.</summary>
/// <param name="overview">Its overview.</param>
/// <param name="file">The open file; stays the caller's. Null where it is gone: then its overview is all there is to see.</param>
public sealed class FileWaveform(Overview overview, IRecording? file) : IWaveform
{
    private const int BlockFrames = 1 << 15;

    /// <inheritdoc/>
    public int Channels => overview.Channels;

    /// <inheritdoc/>
    public Frames Frames => overview.Frames;

    /// <inheritdoc/>
    public (float Low, float High)[] Columns(int channel, double start, double frames, int columns) => file is null || frames / columns >= overview.BinFrames(0).Count
        ? overview.Columns(channel, new Frames((long)Math.Round(start)), new Frames((long)Math.Round(frames)), columns)
        : FromSamples(file, channel, start, frames, columns);

    /// <inheritdoc/>
    public void Samples(int channel, long start, Span<float> into)
    {
        into.Clear();
        if (file is not null)
        {
            new MonoReader(file, channel).Read(start, into);
        }
    }

    private static (float Low, float High)[] FromSamples(IRecording file, int channel, double start, double frames, int columns)
    {
        var reader = new MonoReader(file, channel);
        var result = new (float Low, float High)[columns];
        var block = new float[BlockFrames];
        var first = long.MinValue;
        for (var column = 0; column < columns; column++)
        {
            var from = (long)Math.Floor(start + frames * column / columns);
            var to = Math.Max(from + 1, (long)Math.Floor(start + frames * (column + 1) / columns));
            var (low, high) = (0f, 0f);
            for (var at = from; at < to;)
            {
                if (at < first || at >= first + BlockFrames)
                {
                    first = at;
                    reader.Read(first, block);
                }

                var part = block.AsSpan((int)(at - first), (int)Math.Min(to - at, first + BlockFrames - at));
                (low, high) = (Math.Min(low, System.Numerics.Tensors.TensorPrimitives.Min<float>(part)), Math.Max(high, System.Numerics.Tensors.TensorPrimitives.Max<float>(part)));
                at += part.Length;
            }

            result[column] = (low, high);
        }

        return result;
    }
}

using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A file as it is drawn: from its overview as long as that is fine enough, and from its samples where it is not.</summary>
/// <param name="overview">Its overview.</param>
/// <param name="file">The open file; stays the caller's. Null where it is gone: then its overview is all there is to see.</param>
public sealed class FileWaveform(Overview overview, IRecording? file) : IWaveform
{
    private const int BlockFrames = 1 << 13;
    private ((double Start, double Frames, int Columns) Of, (float Low, float High)[][] Columns)? _last;

    /// <inheritdoc/>
    public int Channels => overview.Channels;

    /// <inheritdoc/>
    public Frames Frames => overview.Frames;

    /// <inheritdoc/>
    public (float Low, float High)[] Columns(int channel, double start, double frames, int columns)
    {
        if (file is null || frames / columns >= overview.BinFrames(0).Count)
        {
            return overview.Columns(channel, new Frames((long)Math.Round(start)), new Frames((long)Math.Round(frames)), columns);
        }

        // All channels of a file are drawn alike: the samples are read once.
        _last = _last is { } last && last.Of == (start, frames, columns) ? last : ((start, frames, columns), FromSamples(file, start, frames, columns));
        return _last.Value.Columns[channel];
    }

    /// <inheritdoc/>
    public void Samples(int channel, long start, Span<float> into)
    {
        into.Clear();
        if (file is not null)
        {
            new MonoReader(file, channel).Read(start, into);
        }
    }

    private static (float Low, float High)[][] FromSamples(IRecording file, double start, double frames, int columns)
    {
        var format = file.Format;
        var result = Enumerable.Range(0, format.Channels).Select(_ => new (float Low, float High)[columns]).ToArray();
        var bytes = new byte[BlockFrames * format.BytesPerFrame];
        var blocks = result.Select(_ => new float[BlockFrames]).ToArray();
        var first = long.MinValue;
        for (var column = 0; column < columns; column++)
        {
            var from = (long)Math.Floor(start + frames * column / columns);
            var to = Math.Max(from + 1, (long)Math.Floor(start + frames * (column + 1) / columns));
            for (var at = from; at < to;)
            {
                if (at < first || at >= first + BlockFrames)
                {
                    first = at;
                    new ExcerptRecording(file, new Frames(first), BlockFrames).Read(0, bytes);
                    for (var channel = 0; channel < format.Channels; channel++)
                    {
                        SampleCodec.Decode(bytes, format, channel, blocks[channel]);
                    }
                }

                var (place, count) = ((int)(at - first), (int)Math.Min(to - at, first + BlockFrames - at));
                for (var channel = 0; channel < format.Channels; channel++)
                {
                    var part = blocks[channel].AsSpan(place, count);
                    var so = result[channel][column];
                    result[channel][column] = (Math.Min(so.Low, TensorPrimitives.Min<float>(part)), Math.Max(so.High, TensorPrimitives.Max<float>(part)));
                }

                at += count;
            }
        }

        return result;
    }
}

using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Reads a file once from end to end, block by block, in constant memory.</summary>
internal static class SampleBlocks
{
    private const int BlockFrames = 8192;

    /// <summary>Reads it.</summary>
    /// <param name="reader">The open file.</param>
    /// <param name="take">Given a buffer for each channel and how many samples of each hold.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <returns>How many samples were no number and taken as 0.</returns>
    public static long Read(WaveReader reader, Action<float[][], int> take, IProgress<double>? progress, CancellationToken cancel)
    {
        var format = reader.Format;
        var bytes = new byte[BlockFrames * format.BytesPerFrame];
        var samples = Enumerable.Range(0, format.Channels).Select(_ => new float[BlockFrames]).ToArray();
        var none = 0L;
        for (Frames at = 0; at < reader.Frames;)
        {
            cancel.ThrowIfCancellationRequested();
            var frames = reader.Read(at, bytes);
            if (frames == 0)
            {
                break;
            }

            for (var channel = 0; channel < format.Channels; channel++)
            {
                none += SampleCodec.Decode(bytes, format, channel, samples[channel].AsSpan(0, frames));
            }

            take(samples, frames);
            at += frames;
            progress?.Report((double)at.Count / reader.Frames.Count);
        }

        return none;
    }
}

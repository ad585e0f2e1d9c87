using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Reads a recording once from end to end, block by block, in constant memory.</summary>
internal static class SampleBlocks
{
    private const int BlockFrames = 8192;

    /// <summary>Reads it.</summary>
    /// <param name="from">The recording.</param>
    /// <param name="take">Given a buffer for each channel and how many samples of each hold.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <returns>How many samples were no number and taken as 0.</returns>
    public static long Read(IRecording from, Action<float[][], int> take, IProgress<double>? progress, CancellationToken cancel)
    {
        var format = from.Format;
        var bytes = new byte[BlockFrames * format.BytesPerFrame];
        var samples = Enumerable.Range(0, format.Channels).Select(_ => new float[BlockFrames]).ToArray();
        var none = 0L;
        for (Frames at = 0; at < from.Frames;)
        {
            cancel.ThrowIfCancellationRequested();
            var frames = from.Read(at, bytes);
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
            progress?.Report((double)at.Count / from.Frames.Count);
        }

        return none;
    }
}

using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Writes a recording anew at another sample rate.</summary>
public static class RateConverter
{
    private const int BlockFrames = 16384;

    /// <summary>Converts a mono or stereo file: one of floats stays one, any other becomes 24 bit.</summary>
    /// <param name="from">The recording.</param>
    /// <param name="path">Where the new file is to lie.</param>
    /// <param name="sampleRate">Its frames a second.</param>
    /// <param name="label">What the file says of itself; null for nothing.</param>
    /// <param name="cancel">Stops it and leaves nothing behind.</param>
    /// <exception cref="IOException">The disk refuses; nothing is left behind.</exception>
    public static void Convert(WaveReader from, string path, SampleRate sampleRate, FileLabel? label, CancellationToken cancel)
    {
        var format = new AudioFormat(from.Format.Channels, sampleRate, from.Format.Sample is SampleFormat.Float32 or SampleFormat.Float64 ? SampleFormat.Float32 : SampleFormat.Pcm24);
        var resampler = new Resampler(from.Format.SampleRate, sampleRate);
        var frames = resampler.FramesOf(from.Frames);
        using var writer = new WaveWriter(path, format, frames, label);
        var bytes = new byte[BlockFrames * format.BytesPerFrame];
        var interleaved = new float[2 * BlockFrames];
        float[] left = new float[BlockFrames], right = new float[BlockFrames];
        for (Frames at = 0; at < frames; at += BlockFrames)
        {
            cancel.ThrowIfCancellationRequested();
            var count = (int)Frames.Min(BlockFrames, frames - at).Count;
            var (start, needed) = resampler.Needed(at, count);
            for (var channel = 0; channel < format.Channels; channel++)
            {
                resampler.Fill(at, Window(from, channel, start, needed), (channel == 0 ? left : right).AsSpan(0, count));
            }

            var block = bytes.AsSpan(0, count * format.BytesPerFrame);
            SampleCodec.Encode(left.AsSpan(0, count), format.Channels == 1 ? [] : right.AsSpan(0, count), format.Sample, interleaved, block);
            writer.Write(block);
        }

        writer.Finish();
        writer.TakeName();
    }

    /// <summary>A stretch of one channel, silent outside the recording.</summary>
    private static float[] Window(WaveReader from, int channel, Frames start, int frames)
    {
        var samples = new float[frames];
        var before = (int)Math.Clamp(-start.Count, 0, frames);
        var bytes = new byte[Math.Clamp((from.Frames - start - before).Count, 0, frames - before) * from.Format.BytesPerFrame];
        if (bytes.Length > 0)
        {
            var read = from.Read(start + before, bytes);
            SampleCodec.Decode(bytes.AsSpan(0, read * from.Format.BytesPerFrame), from.Format, channel, samples.AsSpan(before, read));
        }

        return samples;
    }
}

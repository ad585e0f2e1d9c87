using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Tests.Shared;

/// <summary>A recording in memory.</summary>
/// <param name="Format">The shape of its samples.</param>
/// <param name="Bytes">Interleaved frames.</param>
public sealed record Held(AudioFormat Format, byte[] Bytes) : IRecording
{
    /// <inheritdoc/>
    public Frames Frames => Format.Frames(Bytes.Length);

    /// <inheritdoc/>
    public int Read(Frames startFrame, Span<byte> into)
    {
        var at = (int)(startFrame.Count * Format.BytesPerFrame);
        var count = Math.Min(into.Length / Format.BytesPerFrame * Format.BytesPerFrame, Math.Max(0, Bytes.Length - at));
        Bytes.AsSpan(Math.Min(at, Bytes.Length), count).CopyTo(into);
        return count / Format.BytesPerFrame;
    }

    /// <summary>One of floats.</summary>
    /// <param name="rate">Frames a second.</param>
    /// <param name="channels">Its channels, all of one length.</param>
    public static Held Of(int rate, params float[][] channels)
    {
        var format = new AudioFormat(channels.Length, rate, SampleFormat.Float32);
        var bytes = new byte[channels[0].Length * format.BytesPerFrame];
        for (var channel = 0; channel < channels.Length; channel++)
        {
            SampleCodec.Encode(channels[channel].ToArray(), format, channel, bytes);
        }

        return new Held(format, bytes);
    }

    /// <summary>All samples of one channel of a recording, read in pieces of an odd length.</summary>
    public static float[] Samples(IRecording recording, int channel)
    {
        var samples = new float[recording.Frames.Count];
        var piece = new byte[777 * recording.Format.BytesPerFrame];
        for (Frames at = 0; at < recording.Frames;)
        {
            var frames = recording.Read(at, piece);
            SampleCodec.Decode(piece.AsSpan(0, frames * recording.Format.BytesPerFrame), recording.Format, channel, samples.AsSpan((int)at.Count, frames));
            at += frames;
        }

        return samples;
    }
}

using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A recording with samples stored in another way, block by block.</summary>
public static class FormatConverter
{
    private const int BlockFrames = 16384;

    /// <summary>Converts; what becomes 16 bit and was not is dithered (TPDF), each channel with noise of its own that is the same every time.</summary>
    /// <param name="from">The recording.</param>
    /// <param name="format">What its samples become; as many channels as the recording, at its rate.</param>
    /// <returns>Interleaved frames; each piece holds until the next is asked for.</returns>
    public static IEnumerable<ReadOnlyMemory<byte>> Convert(IRecording from, AudioFormat format)
    {
        var same = from.Format.Sample == format.Sample;
        var dithers = Enumerable.Range(1, format.Sample == SampleFormat.Pcm16 && from.Format.Sample is not (SampleFormat.Pcm16 or SampleFormat.Pcm8) ? format.Channels : 0).Select(c => new Dither((uint)c)).ToArray();
        var source = new byte[BlockFrames * from.Format.BytesPerFrame];
        var target = same ? source : new byte[BlockFrames * format.BytesPerFrame];
        var samples = new float[BlockFrames];
        for (Frames at = 0; at < from.Frames; at += BlockFrames)
        {
            var frames = from.Read(at, source);
            for (var channel = 0; !same && channel < format.Channels; channel++)
            {
                var part = samples.AsSpan(0, frames);
                SampleCodec.Decode(source, from.Format, channel, part);
                if (dithers.Length > 0)
                {
                    dithers[channel].Apply(part);
                }

                SampleCodec.Encode(part, format, channel, target);
            }

            yield return target.AsMemory(0, frames * format.BytesPerFrame);
        }
    }
}

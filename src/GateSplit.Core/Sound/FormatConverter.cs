using System.Buffers;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A recording as a file of another kind or with other samples, block by block from its first byte to its last.</summary>
public static class FormatConverter
{
    private const int BlockFrames = 16384;

    /// <summary>Converts; what becomes 16 bit and was not is dithered (TPDF), each channel with noise of its own that is the same every time.</summary>
    /// <param name="from">The recording.</param>
    /// <param name="container">The kind of file.</param>
    /// <param name="format">Its samples; as many channels as the recording.</param>
    /// <param name="broadcast">What is told of them.</param>
    /// <returns>The bytes of the file; each piece holds until the next is asked for.</returns>
    public static IEnumerable<ReadOnlyMemory<byte>> Convert(IRecording from, IContainer container, AudioFormat format, BroadcastInfo broadcast)
    {
        var dithered = format.Sample == SampleFormat.Pcm16 && from.Format.Sample != SampleFormat.Pcm16;
        var dithers = Enumerable.Range(1, format.Channels).Select(c => new Dither((uint)c)).ToArray();
        yield return container.Head(format, from.Frames, broadcast);
        var source = new byte[BlockFrames * from.Format.BytesPerFrame];
        var target = new byte[BlockFrames * format.BytesPerFrame];
        var samples = new float[BlockFrames];
        var body = new ArrayBufferWriter<byte>(target.Length);
        for (Frames at = 0; at < from.Frames; at += BlockFrames)
        {
            var frames = from.Read(at, source);
            for (var channel = 0; channel < format.Channels; channel++)
            {
                var part = samples.AsSpan(0, frames);
                SampleCodec.Decode(source, from.Format, channel, part);
                if (dithered)
                {
                    dithers[channel].Apply(part);
                }

                SampleCodec.Encode(part, format, channel, target);
            }

            body.ResetWrittenCount();
            container.Body(format, target.AsSpan(0, frames * format.BytesPerFrame), body);
            yield return body.WrittenMemory;
        }

        yield return container.Foot(format, from.Frames);
    }
}

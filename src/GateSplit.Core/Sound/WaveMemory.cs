using System.Buffers.Binary;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>A short stereo sound as a 16 bit WAVE file in memory, for listening.</summary>
public static class WaveMemory
{
    private const int HeaderBytes = 44;

    /// <summary>Writes it; what is above full scale is cut off, in the samples given too.</summary>
    /// <param name="left">Left.</param>
    /// <param name="right">Right, as long.</param>
    /// <param name="sampleRate">Frames a second.</param>
    public static byte[] Write(Span<float> left, Span<float> right, SampleRate sampleRate)
    {
        var format = new AudioFormat(2, sampleRate, SampleFormat.Pcm16);
        var bytes = new byte[HeaderBytes + left.Length * format.BytesPerFrame];
        var header = bytes.AsSpan();
        "RIFF"u8.CopyTo(header);
        BinaryPrimitives.WriteInt32LittleEndian(header[4..], bytes.Length - 8);
        "WAVEfmt "u8.CopyTo(header[8..]);
        BinaryPrimitives.WriteInt32LittleEndian(header[16..], 16);
        BinaryPrimitives.WriteInt16LittleEndian(header[20..], 1);
        BinaryPrimitives.WriteInt16LittleEndian(header[22..], 2);
        BinaryPrimitives.WriteInt32LittleEndian(header[24..], sampleRate.Hz);
        BinaryPrimitives.WriteInt32LittleEndian(header[28..], sampleRate.Hz * format.BytesPerFrame);
        BinaryPrimitives.WriteInt16LittleEndian(header[32..], (short)format.BytesPerFrame);
        BinaryPrimitives.WriteInt16LittleEndian(header[34..], 16);
        "data"u8.CopyTo(header[36..]);
        BinaryPrimitives.WriteInt32LittleEndian(header[40..], bytes.Length - HeaderBytes);
        SampleCodec.Encode(left, right, SampleFormat.Pcm16, new float[2 * left.Length], header[HeaderBytes..]);
        return bytes;
    }
}

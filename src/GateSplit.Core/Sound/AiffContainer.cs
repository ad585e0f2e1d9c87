using System.Buffers;
using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Numerics;
using System.Text;

namespace GateSplit.Core.Sound;

/// <summary>AIFF (Audio Interchange File Format 1.3): read by ffmpeg at bring-in.</summary>
public sealed class AiffContainer : IContainer
{
    private const int CommonBytes = 18;
    private const int SoundHeaderBytes = 8;

    /// <inheritdoc/>
    public string Id => "aiff";

    /// <inheritdoc/>
    public string Name => "AIFF";

    /// <inheritdoc/>
    public string Ending => ".aif";

    /// <inheritdoc/>
    public ImmutableArray<SampleFormat> Samples => [SampleFormat.Pcm16, SampleFormat.Pcm24];

    /// <inheritdoc/>
    public byte[] Head(AudioFormat format, long frames, BroadcastInfo? broadcast)
    {
        var samples = frames * format.BytesPerFrame;
        var head = new byte[12 + 8 + CommonBytes + 8 + SoundHeaderBytes];
        Name4(head, 0, "FORM");
        BinaryPrimitives.WriteUInt32BigEndian(head.AsSpan(4), checked((uint)(head.Length - 8 + samples + (samples & 1))));
        Name4(head, 8, "AIFF");
        Name4(head, 12, "COMM");
        BinaryPrimitives.WriteUInt32BigEndian(head.AsSpan(16), CommonBytes);
        BinaryPrimitives.WriteInt16BigEndian(head.AsSpan(20), (short)format.Channels);
        BinaryPrimitives.WriteUInt32BigEndian(head.AsSpan(22), checked((uint)frames));
        BinaryPrimitives.WriteInt16BigEndian(head.AsSpan(26), (short)(8 * format.BytesPerFrame / format.Channels));

        // The rate is an IEEE 754 number of 80 bits: the exponent, then the mantissa with its leading one.
        var exponent = BitOperations.Log2((uint)format.SampleRate);
        BinaryPrimitives.WriteUInt16BigEndian(head.AsSpan(28), (ushort)(16383 + exponent));
        BinaryPrimitives.WriteUInt64BigEndian(head.AsSpan(30), (ulong)format.SampleRate << (63 - exponent));
        Name4(head, 38, "SSND");
        BinaryPrimitives.WriteUInt32BigEndian(head.AsSpan(42), checked((uint)(SoundHeaderBytes + samples)));
        return head;
    }

    /// <inheritdoc/>
    public void Body(AudioFormat format, ReadOnlySpan<byte> frames, IBufferWriter<byte> to)
    {
        var size = format.BytesPerFrame / format.Channels;
        var turned = to.GetSpan(frames.Length);
        for (var at = 0; at < frames.Length; at += size)
        {
            for (var b = 0; b < size; b++)
            {
                turned[at + b] = frames[at + size - 1 - b];
            }
        }

        to.Advance(frames.Length);
    }

    /// <inheritdoc/>
    public byte[] Foot(AudioFormat format, long frames) => (frames * format.BytesPerFrame & 1) == 1 ? [0] : [];

    private static void Name4(byte[] head, int at, string name) => Encoding.ASCII.GetBytes(name, head.AsSpan(at));
}

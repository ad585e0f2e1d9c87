using System.Buffers.Binary;
using System.Text;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// Everything of a WAVE file that stands before its samples. The length is known before the first sample is
/// written, so the header is right from the start; over 4 GiB - 1 it is RF64 (EBU Tech 3306) with a ds64 chunk.
/// </summary>
public static class WaveHeader
{
    private static readonly byte[] SubFormatTail = [0, 0, 0, 0, 0x10, 0, 0x80, 0, 0, 0xAA, 0, 0x38, 0x9B, 0x71];

    /// <summary>Builds the header for a file of exactly <paramref name="frames"/> frames.</summary>
    /// <param name="format">The shape of the samples.</param>
    /// <param name="frames">Frames the file will hold.</param>
    /// <param name="label">What the file says of itself, in bext, iXML and cue chunks; null for nothing.</param>
    /// <param name="large">True for RF64 whatever the length, so that a header keeps its size; false where it is needed only.</param>
    public static byte[] Build(AudioFormat format, Frames frames, FileLabel? label, bool large = false)
    {
        var dataBytes = format.Bytes(frames).Count;
        var chunks = new List<(string Id, byte[] Body)>();
        if (label is not null)
        {
            chunks.Add(("bext", label.Broadcast.ToBytes()));
            if (label.Track.Length > 0)
            {
                chunks.Add(("iXML", IxmlChunk.Of(label, format)));
            }
        }

        chunks.Add(("fmt ", FormatChunk(format)));
        if (format.IsFloat)
        {
            var fact = new byte[4];
            BinaryPrimitives.WriteUInt32LittleEndian(fact, (uint)Math.Min(frames.Count, uint.MaxValue));
            chunks.Add(("fact", fact));
        }

        chunks.AddRange(CueChunks.Of(label?.Cues ?? []));
        var chunkBytes = chunks.Sum(c => 8L + c.Body.Length + (c.Body.Length & 1));
        var riffBytes = 4 + chunkBytes + 8 + dataBytes + (dataBytes & 1);
        large |= riffBytes + 8 > uint.MaxValue;
        var header = new MemoryStream();
        Text(header, large ? "RF64" : "RIFF");
        UInt32(header, large ? uint.MaxValue : (uint)riffBytes);
        Text(header, "WAVE");
        if (large)
        {
            const int ds64 = 28;
            Text(header, "ds64");
            UInt32(header, ds64);
            Int64(header, riffBytes + 8 + ds64);
            Int64(header, dataBytes);
            Int64(header, frames.Count);
            UInt32(header, 0);
        }

        foreach (var (id, body) in chunks)
        {
            Text(header, id);
            UInt32(header, (uint)body.Length);
            header.Write(body);
            if ((body.Length & 1) == 1)
            {
                header.WriteByte(0);
            }
        }

        Text(header, "data");
        UInt32(header, large ? uint.MaxValue : (uint)dataBytes);
        return header.ToArray();
    }

    private static byte[] FormatChunk(AudioFormat format)
    {
        const ushort pcm = 1, ieeeFloat = 3, extensible = 0xFFFE;
        var tag = format.IsFloat ? ieeeFloat : pcm;
        var wide = format.Channels > 2 || format.BitsPerSample > 16; // so Microsoft's "Multiple Channel Audio Data and WAVE Files"
        var body = new byte[wide ? 40 : format.IsFloat ? 18 : 16];
        BinaryPrimitives.WriteUInt16LittleEndian(body, wide ? extensible : tag);
        BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(2), (ushort)format.Channels);
        BinaryPrimitives.WriteUInt32LittleEndian(body.AsSpan(4), (uint)format.SampleRate.Hz);
        BinaryPrimitives.WriteUInt32LittleEndian(body.AsSpan(8), (uint)(format.SampleRate.Hz * format.BytesPerFrame));
        BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(12), (ushort)format.BytesPerFrame);
        BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(14), (ushort)format.BitsPerSample);
        if (wide)
        {
            BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(16), 22);
            BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(18), (ushort)format.BitsPerSample);
            BinaryPrimitives.WriteUInt32LittleEndian(body.AsSpan(20), Speakers(format.Channels));
            BinaryPrimitives.WriteUInt16LittleEndian(body.AsSpan(24), tag);
            SubFormatTail.CopyTo(body, 26);
        }

        return body;
    }

    /// <summary>Which loudspeakers the channels are for: the centre, left and right; of more channels nobody says.</summary>
    private static uint Speakers(int channels) => channels switch
    {
        1 => 0x4,
        2 => 0x3,
        _ => 0,
    };

    private static void Text(Stream to, string id) => to.Write(Encoding.ASCII.GetBytes(id));

    private static void UInt32(Stream to, uint value)
    {
        Span<byte> bytes = stackalloc byte[4];
        BinaryPrimitives.WriteUInt32LittleEndian(bytes, value);
        to.Write(bytes);
    }

    private static void Int64(Stream to, long value)
    {
        Span<byte> bytes = stackalloc byte[8];
        BinaryPrimitives.WriteInt64LittleEndian(bytes, value);
        to.Write(bytes);
    }
}

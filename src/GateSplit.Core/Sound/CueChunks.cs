using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Text;

namespace GateSplit.Core.Sound;

/// <summary>
/// The cue chunk of a WAVE file, and the associated data list that names its places ("Multimedia Programming Interface and Data
/// Specifications 1.0", 1991). Both count frames in 32 bits: what lies behind is left out.
/// </summary>
public static class CueChunks
{
    private const int PointBytes = 24;

    /// <summary>The chunks, without ids and sizes: "cue " and "LIST". None where there are no places.</summary>
    public static IEnumerable<(string Id, byte[] Body)> Of(ImmutableArray<CuePoint> cues)
    {
        ImmutableArray<CuePoint> told = [.. cues.Where(c => c.At >= 0 && c.At.Count <= uint.MaxValue)];
        return told.IsEmpty ? [] : [("cue ", Points(told)), ("LIST", Labels(told))];
    }

    private static byte[] Points(ImmutableArray<CuePoint> cues)
    {
        var body = new byte[4 + PointBytes * cues.Length];
        BinaryPrimitives.WriteUInt32LittleEndian(body, (uint)cues.Length);
        for (var i = 0; i < cues.Length; i++)
        {
            var point = body.AsSpan(4 + PointBytes * i, PointBytes);
            BinaryPrimitives.WriteUInt32LittleEndian(point, (uint)i + 1);
            BinaryPrimitives.WriteUInt32LittleEndian(point[4..], (uint)cues[i].At.Count); // in the order of play, which is that of the file
            "data"u8.CopyTo(point[8..]);
            BinaryPrimitives.WriteUInt32LittleEndian(point[20..], (uint)cues[i].At.Count);
        }

        return body;
    }

    private static byte[] Labels(ImmutableArray<CuePoint> cues)
    {
        var body = new MemoryStream();
        body.Write("adtl"u8);
        Span<byte> head = stackalloc byte[12];
        ReadOnlySpan<byte> end = [0, 0];
        for (var i = 0; i < cues.Length; i++)
        {
            var text = Encoding.UTF8.GetBytes(cues[i].Name);
            var size = 4 + text.Length + 1; // the number of the place, and a zero behind the text
            "labl"u8.CopyTo(head);
            BinaryPrimitives.WriteUInt32LittleEndian(head[4..], (uint)size);
            BinaryPrimitives.WriteUInt32LittleEndian(head[8..], (uint)i + 1);
            body.Write(head);
            body.Write(text);
            body.Write(end[..(1 + (size & 1))]);
        }

        return body.ToArray();
    }
}

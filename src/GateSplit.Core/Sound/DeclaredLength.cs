using System.Buffers.Binary;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// How long a file says it is, where libsndfile tells only how long it found it: AIFF and AIFF-C (numSampleFrames of the COMM chunk),
/// Sony Wave64 and CAF (the size of the data chunk).
/// </summary>
internal static class DeclaredLength
{
    private const int MostChunks = 4096;
    private const int GuidBytes = 16;

    /// <summary>Reads it.</summary>
    /// <param name="path">The file.</param>
    /// <param name="format">The shape of its samples.</param>
    /// <returns>Frames; null if the file does not say, or is of another kind.</returns>
    public static Frames? Read(string path, AudioFormat format)
    {
        using var file = File.OpenHandle(path);
        Span<byte> start = stackalloc byte[12];
        return RandomAccess.Read(file, start, 0) < start.Length ? null
            : start[..4].SequenceEqual("FORM"u8) ? Aiff(file)
            : start[..4].SequenceEqual("riff"u8) ? Wave64(file, format)
            : CafData.Find(file)?.Declared(format);
    }

    private static Frames? Aiff(Microsoft.Win32.SafeHandles.SafeFileHandle file)
    {
        Span<byte> head = stackalloc byte[14];
        long at = 12;
        for (var chunks = 0; chunks < MostChunks && RandomAccess.Read(file, head, at) >= 8; chunks++)
        {
            if (head[..4].SequenceEqual("COMM"u8))
            {
                return new Frames(BinaryPrimitives.ReadUInt32BigEndian(head[10..]));
            }

            var size = BinaryPrimitives.ReadUInt32BigEndian(head[4..]);
            at += 8 + size + (size & 1);
        }

        return null;
    }

    private static Frames? Wave64(Microsoft.Win32.SafeHandles.SafeFileHandle file, AudioFormat format)
    {
        Span<byte> head = stackalloc byte[GuidBytes + 8];
        long at = 2 * GuidBytes + 8;
        for (var chunks = 0; chunks < MostChunks && at > 0 && RandomAccess.Read(file, head, at) == head.Length; chunks++)
        {
            // The size counts the head of the chunk, too.
            var size = BinaryPrimitives.ReadInt64LittleEndian(head[GuidBytes..]);
            if (size < head.Length)
            {
                return null;
            }

            if (head[..4].SequenceEqual("data"u8))
            {
                return format.Frames(new Bytes(size - head.Length));
            }

            at += (size + 7) & ~7L;
        }

        return null;
    }
}

using System.Buffers.Binary;
using GateSplit.Core.Quantities;
using Microsoft.Win32.SafeHandles;

namespace GateSplit.Core.Sound;

/// <summary>Where a CAF file keeps its samples, and how many bytes of them it speaks of.</summary>
/// <param name="SizeAt">Place of the eight bytes that say the size of the data chunk.</param>
/// <param name="Said">That size; -1 is allowed where the chunk is the last and was never ended.</param>
/// <param name="There">Bytes from there to the end of the file.</param>
internal readonly record struct CafData(Bytes SizeAt, Bytes Said, Bytes There)
{
    private const int MostChunks = 4096;
    private const int FileHead = 8;
    private const int ChunkHead = 12;

    /// <summary>The count of edits, which stands before the first sample.</summary>
    private const int EditCount = 4;

    /// <summary>True of a chunk whose size was never written: its recorder broke off.</summary>
    public bool NeverEnded => Said <= 0;

    /// <summary>True of a chunk that says nothing of its size, or more than is there.</summary>
    public bool IsOpen => NeverEnded || Said > There;

    /// <summary>How long the file says it is.</summary>
    /// <param name="format">The shape of its samples.</param>
    /// <returns>Null if it does not say.</returns>
    public Frames? Declared(AudioFormat format) => NeverEnded ? null : format.Frames(Bytes.Max(0, Said - EditCount));

    /// <summary>Looks for the samples.</summary>
    /// <returns>Null if this is no CAF file, or one without samples.</returns>
    public static CafData? Find(SafeFileHandle file)
    {
        Span<byte> head = stackalloc byte[ChunkHead];
        if (RandomAccess.Read(file, head[..FileHead], 0) < FileHead || !head[..4].SequenceEqual("caff"u8))
        {
            return null;
        }

        var length = RandomAccess.GetLength(file);
        long at = FileHead;
        for (var chunks = 0; chunks < MostChunks && at > 0 && at < length && RandomAccess.Read(file, head, at) == ChunkHead; chunks++)
        {
            var size = BinaryPrimitives.ReadInt64BigEndian(head[4..]);
            if (head[..4].SequenceEqual("data"u8))
            {
                return new CafData(new Bytes(at + 4), new Bytes(size), new Bytes(length - at - ChunkHead));
            }

            if (size < 0)
            {
                return null;
            }

            at += ChunkHead + size;
        }

        return null;
    }
}

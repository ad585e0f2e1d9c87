using System.Buffers.Binary;
using GateSplit.Core.Quantities;
using Microsoft.Win32.SafeHandles;

namespace GateSplit.Core.Sound;

/// <summary>
/// Where a Wave64 file says what its samples are. One that says so as an extensible WAVE does is taken for whole numbers by the library,
/// whatever it really holds; said plainly, it is not.
/// </summary>
/// <param name="At">Place of the two bytes of the format tag.</param>
/// <param name="Plain">The tag that says the same plainly.</param>
internal readonly record struct Wave64Tag(Bytes At, ushort Plain)
{
    private const int MostChunks = 4096;
    private const int FileHead = 40; // the file's GUID, its size, the GUID of "wave"
    private const int ChunkHead = 24; // a GUID and a size, which counts both of them
    private const int SubFormat = 24; // place of the GUID in an extensible format
    private const int FormatBytes = 40;
    private const ushort Extensible = 0xFFFE;

    /// <summary>Looks for it.</summary>
    /// <returns>Null if this is no Wave64 file, or one that says it plainly.</returns>
    public static Wave64Tag? Find(SafeFileHandle file)
    {
        Span<byte> head = stackalloc byte[FileHead];
        if (RandomAccess.Read(file, head, 0) < FileHead || !head[..4].SequenceEqual("riff"u8) || !head.Slice(24, 4).SequenceEqual("wave"u8))
        {
            return null;
        }

        Span<byte> format = stackalloc byte[ChunkHead + FormatBytes];
        long at = FileHead;
        for (var chunks = 0; chunks < MostChunks && RandomAccess.Read(file, format, at) >= ChunkHead; chunks++)
        {
            var size = BinaryPrimitives.ReadInt64LittleEndian(format[16..]);
            if (format[..4].SequenceEqual("fmt "u8))
            {
                var says = format[ChunkHead..];
                return size >= format.Length && BinaryPrimitives.ReadUInt16LittleEndian(says) == Extensible
                    ? new Wave64Tag(new Bytes(at + ChunkHead), BinaryPrimitives.ReadUInt16LittleEndian(says[SubFormat..]))
                    : null;
            }

            if (size < ChunkHead || size > long.MaxValue - at - 7)
            {
                return null;
            }

            // Chunks begin at whole eights.
            at += (size + 7) / 8 * 8;
        }

        return null;
    }
}

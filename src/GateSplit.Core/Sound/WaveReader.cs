using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Text;
using GateSplit.Core.Quantities;
using Microsoft.Win32.SafeHandles;

namespace GateSplit.Core.Sound;

/// <summary>
/// Reads WAVE, RF64 and BW64 files (Microsoft RIFF, EBU Tech 3306, ITU-R BS.2088) of up to 256 channels, by blocks
/// from any place. What a crashed recorder or a broken copy left is read as far as it goes, and told in
/// <see cref="Remarks"/>.
/// </summary>
public sealed class WaveReader : IRecording, IDisposable
{
    /// <summary>More than any recorder writes; a file of nothing but small chunks would keep the reader busy for minutes.</summary>
    private const int MostChunks = 4096;

    private readonly SafeFileHandle _file;
    private readonly Bytes? _dataEnd;

    private WaveReader(SafeFileHandle file, AudioFormat format, Bytes dataOffset, Bytes? dataEnd, Frames frames, ImmutableArray<string> remarks)
    {
        _file = file;
        _dataEnd = dataEnd;
        Format = format;
        DataOffset = dataOffset;
        Frames = frames;
        Remarks = remarks;
    }

    /// <summary>The shape of the samples.</summary>
    public AudioFormat Format { get; }

    /// <summary>Where in the file the first sample is.</summary>
    public Bytes DataOffset { get; }

    /// <summary>Whole frames that are really there.</summary>
    public Frames Frames { get; }

    /// <summary>Sentences about damage that was read around; empty for a sound file.</summary>
    public ImmutableArray<string> Remarks { get; }

    /// <summary>Opens a file and reads its header.</summary>
    /// <param name="path">The file.</param>
    /// <returns>The reader, or a sentence that tells what is wrong with the file and where.</returns>
    public static Result<WaveReader> Open(string path)
    {
        SafeFileHandle file;
        try
        {
            file = File.OpenHandle(path, FileMode.Open, FileAccess.Read, FileShare.Read);
        }
        catch (Exception e) when (e is FileNotFoundException or DirectoryNotFoundException)
        {
            return new Refusal("There is no such file.");
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return new Refusal($"The file cannot be read: {e.Message}");
        }

        var result = new Header(file).Read();
        if (!result.Ok)
        {
            file.Dispose();
        }

        return result;
    }

    /// <summary>Reads interleaved frames as they are stored. May be called from several threads.</summary>
    /// <param name="startFrame">0-based first frame.</param>
    /// <param name="into">Space for whole frames.</param>
    /// <returns>Frames read: fewer than asked only at the end.</returns>
    public int Read(Frames startFrame, Span<byte> into)
    {
        var frame = Format.BytesPerFrame;
        var wanted = (int)Math.Min(into.Length / frame, Math.Max(0, (Frames - startFrame).Count));
        var bytes = into[..(wanted * frame)];
        var read = 0;
        while (read < bytes.Length)
        {
            var got = RandomAccess.Read(_file, bytes[read..], (DataOffset + Format.Bytes(startFrame) + read).Count);
            if (got == 0)
            {
                break;
            }

            read += got;
        }

        return read / frame;
    }

    /// <summary>The first chunk of a name, before the samples or behind them.</summary>
    /// <param name="id">Four letters, such as iXML.</param>
    /// <param name="mostBytes">A larger one counts as none.</param>
    /// <returns>Its bytes; null if there is none, or it is cut off.</returns>
    public byte[]? Chunk(string id, int mostBytes)
    {
        Bytes at = 12;
        var length = new Bytes(RandomAccess.GetLength(_file));
        var head = new byte[8];
        for (var chunks = 0; chunks < MostChunks && at + 8 <= length && RandomAccess.Read(_file, head, at.Count) == head.Length && Header.IsChunkId(head); chunks++)
        {
            var size = Header.SizeIn(head);
            if (at + 8 == DataOffset)
            {
                // Where nobody knows where the samples end, nothing can stand behind them.
                if (_dataEnd is not { } end)
                {
                    return null;
                }

                at = end;
                continue;
            }

            if (Header.Id(head) == id)
            {
                var bytes = new byte[size <= mostBytes ? (int)size.Count : 0];
                return size <= mostBytes && RandomAccess.Read(_file, bytes, (at + 8).Count) == bytes.Length ? bytes : null;
            }

            at += 8 + Header.Padded(size);
        }

        return null;
    }

    /// <inheritdoc/>
    public void Dispose() => _file.Dispose();

    /// <summary>The walk along the chunks.</summary>
    private sealed class Header(SafeFileHandle file)
    {
        /// <summary>No disk holds so much: what says so was never written.</summary>
        private static readonly Bytes Impossible = new(1L << 50);

        private readonly Bytes _length = new(RandomAccess.GetLength(file));
        private readonly List<string> _remarks = [];
        private readonly Dictionary<string, Bytes> _ds64Sizes = [];
        private AudioFormat? _format;
        private Bytes? _ds64Data;

        public Result<WaveReader> Read()
        {
            if (NotWave(Take(0, 12)) is { } other)
            {
                return new Refusal(other);
            }

            Bytes at = 12;
            for (var chunks = 0; at >= 12 && at + 8 <= _length; chunks++)
            {
                if (chunks == MostChunks)
                {
                    return new Refusal($"This WAVE file has more than {MostChunks} chunks before its samples, which is no recording.");
                }

                var head = Take(at, 8);
                var id = Id(head);
                var size = SizeIn(head);
                var body = at + 8;
                switch (id)
                {
                    case "ds64":
                        if (!ReadDs64(body, size))
                        {
                            return new Refusal($"The ds64 chunk at byte {at.Count} is cut off.");
                        }

                        break;
                    case "fmt ":
                        var format = WaveFormatChunk.Read(at, Take(body, (int)Math.Min(size.Count, 40)), _remarks);
                        if (!format.Ok)
                        {
                            return new Refusal(format.Trouble);
                        }

                        _format = format.Value;
                        break;
                    case "data":
                        return ReadData(body, size);
                    default:
                        if (!IsChunkId(head))
                        {
                            return new Refusal($"The chunks of this WAVE file are damaged from byte {at.Count} on, before any samples.");
                        }

                        break;
                }

                at = body + Padded(size.Count == uint.MaxValue && _ds64Sizes.TryGetValue(id, out var told) ? told : size);
            }

            return new Refusal(_format is null
                ? "This WAVE file ends before it says what it holds: there is no fmt chunk."
                : "This WAVE file ends before its first sample: there is no data chunk.");
        }

        /// <summary>The sizes that do not fit into 32 bits: of the samples, and of other chunks by name (EBU Tech 3306).</summary>
        private bool ReadDs64(Bytes body, Bytes size)
        {
            const int fixedBytes = 28, entryBytes = 12;
            var fields = Take(body, 24);
            if (fields.Length < 24)
            {
                return false;
            }

            _ds64Data = new(BinaryPrimitives.ReadInt64LittleEndian(fields.AsSpan(8)));
            var count = Take(body + 24, 4) is { Length: 4 } told ? BinaryPrimitives.ReadUInt32LittleEndian(told) : 0;
            for (var i = 0; i < Math.Min(count, MostChunks) && fixedBytes + (i + 1) * entryBytes <= size.Count && Take(body + fixedBytes + i * entryBytes, entryBytes) is { Length: entryBytes } entry; i++)
            {
                _ds64Sizes.TryAdd(Id(entry), new(BinaryPrimitives.ReadInt64LittleEndian(entry.AsSpan(4))));
            }

            return true;
        }

        private string? NotWave(byte[] start) => start.Length < 12
            ? _length == 0 ? "The file is empty." : $"This is not a WAVE file: it is only {Words.Count(_length.Count, "byte")} long."
            : (Id(start), Id(start.AsSpan(8))) switch
            {
                ("RIFX", _) => "This is a big-endian WAVE file (RIFX), which is not read here. Save it as an ordinary WAVE file.",
                ("RIFF" or "RF64" or "BW64", "WAVE") => null,
                _ => "This is not a WAVE file: it does not begin with RIFF, RF64 or BW64 and the word WAVE.",
            };

        private Result<WaveReader> ReadData(Bytes offset, Bytes declared)
        {
            if (_format is null)
            {
                return new Refusal("The samples come before the fmt chunk, so nobody can tell what they are.");
            }

            var (size, known) = SizeOf(offset, declared);
            var frames = _format.Frames(size);
            var over = size - _format.Bytes(frames);
            if (over > 0)
            {
                _remarks.Add($"The last frame is not whole; {Words.Count(over.Count, "byte")} at the end left out.");
            }

            return new WaveReader(file, _format, offset, known ? offset + Padded(size) : null, frames, [.. _remarks]);
        }

        /// <summary>Bytes of samples, whatever the header of a file that was cut off says; and whether it said where they end.</summary>
        private (Bytes Size, bool Known) SizeOf(Bytes offset, Bytes declared)
        {
            var there = _length - offset;
            var size = declared.Count == uint.MaxValue ? _ds64Data ?? new(-1) : declared;
            if (size < 0 || size > Impossible)
            {
                _remarks.Add("The recorder did not write the length of the samples; all that follows was read as samples.");
                return (there, false);
            }

            if (size == 0 && there > 0 && !IsChunkChain(offset))
            {
                _remarks.Add("The file says it holds no samples, as a crashed recorder leaves it; all that follows was read as samples.");
                return (there, false);
            }

            if (size > there)
            {
                _remarks.Add($"The file is cut off: it should hold {Seconds(size)} and holds {Seconds(there)}.");
                return (there, false);
            }

            return (size, true);
        }

        private string Seconds(Bytes bytes) => $"{_format!.Frames(bytes).Seconds(_format.SampleRate):0.00} s";

        private bool IsChunkChain(Bytes at)
        {
            for (var chunks = 0; at + 8 <= _length; chunks++)
            {
                var head = Take(at, 8);
                if (chunks == MostChunks || !IsChunkId(head))
                {
                    return false;
                }

                at += 8 + Padded(SizeIn(head));
            }

            return at == _length;
        }

        public static bool IsChunkId(ReadOnlySpan<byte> head)
        {
            foreach (var b in head[..4])
            {
                if (b is < 0x20 or > 0x7E)
                {
                    return false;
                }
            }

            return true;
        }

        public static Bytes SizeIn(byte[] head) => new(BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(4)));

        /// <summary>A chunk of an odd number of bytes is followed by one more.</summary>
        public static Bytes Padded(Bytes size) => new(size.Count + (size.Count & 1));

        public static string Id(ReadOnlySpan<byte> bytes) => Encoding.ASCII.GetString(bytes[..4]);

        private byte[] Take(Bytes at, int count)
        {
            var bytes = new byte[count];
            var read = RandomAccess.Read(file, bytes, at.Count);
            return read == count ? bytes : bytes[..read];
        }
    }
}

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
public sealed class WaveReader : IDisposable
{
    private readonly SafeFileHandle _file;

    private WaveReader(SafeFileHandle file, AudioFormat format, Bytes dataOffset, Frames frames, ImmutableArray<string> remarks)
    {
        _file = file;
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

    /// <inheritdoc/>
    public void Dispose() => _file.Dispose();

    /// <summary>The walk along the chunks.</summary>
    private sealed class Header(SafeFileHandle file)
    {
        private readonly Bytes _length = new(RandomAccess.GetLength(file));
        private readonly List<string> _remarks = [];
        private AudioFormat? _format;
        private Bytes? _ds64Data;

        public Result<WaveReader> Read()
        {
            if (NotWave(Take(0, 12)) is { } other)
            {
                return new Refusal(other);
            }

            Bytes at = 12;
            while (at + 8 <= _length)
            {
                var head = Take(at, 8);
                var id = Id(head);
                var size = SizeIn(head);
                var body = at + 8;
                switch (id)
                {
                    case "ds64":
                        var ds64 = Take(body, 24);
                        if (ds64.Length < 24)
                        {
                            return new Refusal($"The ds64 chunk at byte {at.Count} is cut off.");
                        }

                        _ds64Data = new(BinaryPrimitives.ReadInt64LittleEndian(ds64.AsSpan(8)));
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

                at = body + Padded(size);
            }

            return new Refusal(_format is null
                ? "This WAVE file ends before it says what it holds: there is no fmt chunk."
                : "This WAVE file ends before its first sample: there is no data chunk.");
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

            var size = SizeOf(offset, declared);
            var frames = _format.Frames(size);
            var over = size - _format.Bytes(frames);
            if (over > 0)
            {
                _remarks.Add($"The last frame is not whole; {Words.Count(over.Count, "byte")} at the end left out.");
            }

            return new WaveReader(file, _format, offset, frames, [.. _remarks]);
        }

        /// <summary>Bytes of samples, whatever the header of a file that was cut off says.</summary>
        private Bytes SizeOf(Bytes offset, Bytes declared)
        {
            var there = _length - offset;
            var size = declared;
            if (declared.Count == uint.MaxValue)
            {
                if (_ds64Data is { } told && told >= 0)
                {
                    size = told;
                }
                else
                {
                    _remarks.Add("The recorder did not write the length of the samples; all that follows was read as samples.");
                    size = there;
                }
            }
            else if (declared == 0 && there > 0 && !IsChunkChain(offset))
            {
                _remarks.Add("The file says it holds no samples, as a crashed recorder leaves it; all that follows was read as samples.");
                size = there;
            }

            if (size < 0 || size > there)
            {
                _remarks.Add($"The file is cut off: it should hold {Seconds(size)} and holds {Seconds(there)}.");
                size = there;
            }

            return size;
        }

        private string Seconds(Bytes bytes) => bytes < 0
            ? "an impossible length"
            : $"{_format!.Frames(bytes).Seconds(_format.SampleRate):0.00} s";

        private bool IsChunkChain(Bytes at)
        {
            while (at + 8 <= _length)
            {
                var head = Take(at, 8);
                if (!IsChunkId(head))
                {
                    return false;
                }

                at += 8 + Padded(SizeIn(head));
            }

            return at == _length;
        }

        private static bool IsChunkId(ReadOnlySpan<byte> head)
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

        private static Bytes SizeIn(byte[] head) => new(BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(4)));

        /// <summary>A chunk of an odd number of bytes is followed by one more.</summary>
        private static Bytes Padded(Bytes size) => new(size.Count + (size.Count & 1));

        private static string Id(ReadOnlySpan<byte> bytes) => Encoding.ASCII.GetString(bytes[..4]);

        private byte[] Take(Bytes at, int count)
        {
            var bytes = new byte[count];
            var read = RandomAccess.Read(file, bytes, at.Count);
            return read == count ? bytes : bytes[..read];
        }
    }
}

using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Text;
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

    private WaveReader(SafeFileHandle file, AudioFormat format, long dataOffset, long frames, ImmutableArray<string> remarks)
    {
        _file = file;
        Format = format;
        DataOffset = dataOffset;
        Frames = frames;
        Remarks = remarks;
    }

    /// <summary>The shape of the samples.</summary>
    public AudioFormat Format { get; }

    /// <summary>Byte offset of the first sample in the file.</summary>
    public long DataOffset { get; }

    /// <summary>Whole frames that are really there.</summary>
    public long Frames { get; }

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
    public int Read(long startFrame, Span<byte> into)
    {
        var frame = Format.BytesPerFrame;
        var wanted = (int)Math.Min(into.Length / frame, Math.Max(0, Frames - startFrame));
        var bytes = into[..(wanted * frame)];
        var read = 0;
        while (read < bytes.Length)
        {
            var got = RandomAccess.Read(_file, bytes[read..], DataOffset + startFrame * frame + read);
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
        private readonly long _length = RandomAccess.GetLength(file);
        private readonly List<string> _remarks = [];
        private AudioFormat? _format;
        private long _ds64Data = -1;

        public Result<WaveReader> Read()
        {
            var start = Bytes(0, 12);
            if (start.Length < 12)
            {
                return new Refusal(_length == 0
                    ? "The file is empty."
                    : $"This is not a WAVE file: it is only {Words.Count(_length, "byte")} long.");
            }

            var riff = Id(start);
            if (riff == "RIFX")
            {
                return new Refusal("This is a big-endian WAVE file (RIFX), which is not read here. Save it as an ordinary WAVE file.");
            }

            if (riff is not ("RIFF" or "RF64" or "BW64") || Id(start.AsSpan(8)) != "WAVE")
            {
                return new Refusal("This is not a WAVE file: it does not begin with RIFF, RF64 or BW64 and the word WAVE.");
            }

            long at = 12;
            while (at + 8 <= _length)
            {
                var head = Bytes(at, 8);
                var id = Id(head);
                long size = BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(4));
                var body = at + 8;
                switch (id)
                {
                    case "ds64":
                        var ds64 = Bytes(body, 24);
                        if (ds64.Length < 24)
                        {
                            return new Refusal($"The ds64 chunk at byte {at} is cut off.");
                        }

                        _ds64Data = BinaryPrimitives.ReadInt64LittleEndian(ds64.AsSpan(8));
                        break;
                    case "fmt ":
                        if (ReadFormat(at, Bytes(body, (int)Math.Min(size, 40))) is { } trouble)
                        {
                            return new Refusal(trouble);
                        }

                        break;
                    case "data":
                        return ReadData(body, size);
                    default:
                        if (!IsChunkId(head))
                        {
                            return new Refusal($"The chunks of this WAVE file are damaged from byte {at} on, before any samples.");
                        }

                        break;
                }

                at = body + size + (size & 1);
            }

            return new Refusal(_format is null
                ? "This WAVE file ends before it says what it holds: there is no fmt chunk."
                : "This WAVE file ends before its first sample: there is no data chunk.");
        }

        private string? ReadFormat(long at, byte[] body)
        {
            if (body.Length < 16)
            {
                return $"The fmt chunk at byte {at} is cut off.";
            }

            int tag = BinaryPrimitives.ReadUInt16LittleEndian(body);
            int channels = BinaryPrimitives.ReadUInt16LittleEndian(body.AsSpan(2));
            var rate = BinaryPrimitives.ReadUInt32LittleEndian(body.AsSpan(4));
            int align = BinaryPrimitives.ReadUInt16LittleEndian(body.AsSpan(12));
            int bits = BinaryPrimitives.ReadUInt16LittleEndian(body.AsSpan(14));
            if (tag == 0xFFFE && body.Length >= 26)
            {
                tag = BinaryPrimitives.ReadUInt16LittleEndian(body.AsSpan(24));
            }

            if (channels == 0)
            {
                return "The file says it has no channels, so there is nothing to read.";
            }

            if (channels > AudioFormat.MostChannels)
            {
                return $"The file says it has {channels} channels; {AudioFormat.MostChannels} is the most that is read.";
            }

            if (rate is 0 or > AudioFormat.HighestSampleRate)
            {
                return $"The file says its sample rate is {rate} Hz; 1 to {AudioFormat.HighestSampleRate} Hz is read.";
            }

            // A sample of 12 or 20 bits sits in the next whole number of bytes, high bits first, so it reads as that width.
            var bytes = align > 0 && align % channels == 0 ? align / channels : (bits + 7) / 8;
            SampleFormat? sample = (tag, bytes) switch
            {
                (1, 1) => SampleFormat.Pcm8,
                (1, 2) => SampleFormat.Pcm16,
                (1, 3) => SampleFormat.Pcm24,
                (1, 4) => SampleFormat.Pcm32,
                (3, 4) => SampleFormat.Float32,
                (3, 8) => SampleFormat.Float64,
                _ => null,
            };
            if (sample is null)
            {
                return tag is 1 or 3
                    ? $"The file says its samples are {bits} bits wide in {Words.Count(bytes, "byte")}, which is not a width that is read."
                    : $"The samples are compressed or of an unknown kind (format {tag}). Save the file as PCM or float first.";
            }

            if (align != channels * bytes)
            {
                _remarks.Add($"The fmt chunk gives a frame of {Words.Count(align, "byte")} where {channels * bytes} are right; the right one was used.");
            }

            _format = new AudioFormat(channels, (int)rate, sample.Value);
            return null;
        }

        private Result<WaveReader> ReadData(long offset, long declared)
        {
            if (_format is null)
            {
                return new Refusal("The samples come before the fmt chunk, so nobody can tell what they are.");
            }

            var there = _length - offset;
            var size = declared;
            if (declared == uint.MaxValue)
            {
                if (_ds64Data >= 0)
                {
                    size = _ds64Data;
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

            var frames = size / _format.BytesPerFrame;
            if (size % _format.BytesPerFrame != 0)
            {
                _remarks.Add($"The last frame is not whole; {Words.Count(size % _format.BytesPerFrame, "byte")} at the end left out.");
            }

            return new WaveReader(file, _format, offset, frames, [.. _remarks]);
        }

        private string Seconds(long bytes) => bytes < 0
            ? "an impossible length"
            : $"{(double)bytes / _format!.BytesPerFrame / _format.SampleRate:0.00} s";

        private bool IsChunkChain(long at)
        {
            while (at + 8 <= _length)
            {
                var head = Bytes(at, 8);
                if (!IsChunkId(head))
                {
                    return false;
                }

                long size = BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(4));
                at += 8 + size + (size & 1);
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

        private static string Id(ReadOnlySpan<byte> bytes) => Encoding.ASCII.GetString(bytes[..4]);

        private byte[] Bytes(long at, int count)
        {
            var bytes = new byte[count];
            var read = RandomAccess.Read(file, bytes, at);
            return read == count ? bytes : bytes[..read];
        }
    }
}

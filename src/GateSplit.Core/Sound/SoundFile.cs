using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Globalization;
using System.Runtime.InteropServices;
using GateSplit.Core.Quantities;
using static GateSplit.Core.Sound.LibSndFile;

namespace GateSplit.Core.Sound;

/// <summary>
/// Reads AIFF, AIFF-C, FLAC and whatever else the system's libsndfile knows, by turning it into a WAVE file of the same
/// width: whole numbers stay what they are, bit by bit.
/// </summary>
public static class SoundFile
{
    private const int BlockFrames = 1 << 14;
    private const int SubMask = 0xFFFF;

    /// <summary>True of a file that is read as it lies, since it is WAVE, RF64 or BW64.</summary>
    public static bool IsWave(string path)
    {
        Span<byte> start = stackalloc byte[4];
        using var file = File.OpenHandle(path);
        return RandomAccess.Read(file, start, 0) == 4 && (start.SequenceEqual("RIFF"u8) || start.SequenceEqual("RF64"u8) || start.SequenceEqual("BW64"u8));
    }

    /// <summary>What a file holds, without reading its samples.</summary>
    /// <returns>The shape of the samples and their number, or a sentence if it cannot be read.</returns>
    public static Result<SoundFileShape> Describe(string path)
    {
        var opened = Open(path);
        if (!opened.Ok)
        {
            return new Refusal(opened.Trouble);
        }

        using (opened.Value.File)
        {
            return new SoundFileShape(opened.Value.Format, opened.Value.Frames, Remarks(opened.Value));
        }
    }

    /// <summary>
    /// What shows of a file that ends before its time: it says more than the library finds, or its last frame cannot be reached.
    /// </summary>
    private static ImmutableArray<string> Remarks(Opened opened)
    {
        if (opened.Frames is not { } said || said == 0)
        {
            return opened.Remarks;
        }

        if (opened.Found < said)
        {
            return [.. opened.Remarks, CutOff(said, opened.Found, opened.Format)];
        }

        return Seek(opened.File, said.Count - 1, 0) < 0 || ReadInts(opened.File, new int[opened.Format.Channels], 1) < 1
            ? [.. opened.Remarks, "The file is cut off: its end cannot be read. What is there is taken."]
            : opened.Remarks;
    }

    /// <summary>
    /// A FLAC frame of silence has up to 65,535 samples of each channel in some 12 bytes. What says that it is denser is not believed, or a
    /// small file would take all room of the disk for as long as it is read.
    /// </summary>
    private const int MostFramesAByte = 8192;

    private const string TooLong = "The file says it is longer than it can be; it was read as far as it goes.";

    private const string NoLength = "The file does not say how long it is, as a recorder leaves it that broke off; all that follows was read as samples.";

    private static string CutOff(Frames said, Frames found, AudioFormat format) => string.Create(
        CultureInfo.InvariantCulture, $"The file is cut off: it should hold {said.Seconds(format.SampleRate):0.00} s and holds {found.Seconds(format.SampleRate):0.00} s.");

    /// <summary>Turns a file into WAVE.</summary>
    /// <param name="from">The file.</param>
    /// <param name="to">The WAVE file; it has this name only once it is complete.</param>
    /// <param name="cancel">Stops it and leaves nothing behind.</param>
    /// <returns>Sentences about damage that was read around, or why it cannot be read.</returns>
    /// <exception cref="IOException">The disk refuses.</exception>
    public static Result<string[]> ToWave(string from, string to, CancellationToken cancel = default)
    {
        var opened = Open(from);
        if (!opened.Ok)
        {
            return new Refusal(opened.Trouble);
        }

        using (opened.Value.File)
        {
            return Copy(opened.Value, to, cancel);
        }
    }

    private static Result<Opened> Open(string path)
    {
        SndFile file;
        var info = default(Info);
        bool neverEnded;
        try
        {
            (file, neverEnded) = Open(path, ref info);
        }
        catch (DllNotFoundException)
        {
            return new Refusal("AIFF and FLAC files need the system's package libsndfile1, which is not installed here. Save the recording as WAVE.");
        }

        var trouble = file.IsInvalid
            ? "This is no sound file that can be read here: WAVE, RF64, AIFF, FLAC, CAF and Wave64 are."
            : Sample(info.Format & SubMask) is null
                ? "This file is compressed with loss, or in a way that is not read here. Save it as WAVE, AIFF or FLAC."
                : info.Channels is < 1 or > AudioFormat.MostChannels || !SampleRate.Limits.Hold(info.SampleRate) || info.Frames < 0
                    ? $"This file has {Words.Count(info.Channels, "channel")} at {info.SampleRate} Hz, which is more than is read here."
                    : null;
        if (trouble is not null)
        {
            file.Dispose();
            return new Refusal(trouble);
        }

        var format = new AudioFormat(info.Channels, info.SampleRate, Sample(info.Format & SubMask)!.Value);
        var found = new Frames(info.Frames);
        if (info.Frames != long.MaxValue && info.Frames / MostFramesAByte > new FileInfo(path).Length)
        {
            return new Opened(file, format, found, null, [TooLong]);
        }

        Frames? said = info.Frames == long.MaxValue ? null : Frames.Max(found, DeclaredLength.Read(path, format) ?? found);
        return new Opened(file, format, found, said, neverEnded ? [NoLength] : []);
    }

    /// <summary>
    /// The library refuses a CAF file whose data chunk is longer than the file, or was never ended: to it, the chunk goes as far as the file.
    /// And it does not see what an extensible Wave64 file holds: to it, that is said plainly.
    /// </summary>
    private static (SndFile File, bool NeverEnded) Open(string path, ref Info info)
    {
        var handle = System.IO.File.OpenHandle(path);
        var patch = new byte[sizeof(long)];
        PatchedFile patched;
        var neverEnded = false;
        if (CafData.Find(handle) is { IsOpen: true } data)
        {
            BinaryPrimitives.WriteInt64BigEndian(patch, data.There.Count);
            patched = new PatchedFile(handle, data.SizeAt.Count, patch);
            neverEnded = data.NeverEnded;
        }
        else if (Wave64Tag.Find(handle) is { } tag)
        {
            BinaryPrimitives.WriteUInt16LittleEndian(patch, tag.Plain);
            patched = new PatchedFile(handle, tag.At.Count, patch[..sizeof(ushort)]);
        }
        else
        {
            handle.Dispose();
            return (LibSndFile.Open(path, Reading, ref info), false);
        }

        var table = PatchedFile.Table;
        var file = LibSndFile.Open(ref table, Reading, ref info, patched.Handle);
        file.Under = patched;
        return (file, neverEnded);
    }

    private static Result<string[]> Copy(Opened opened, string to, CancellationToken cancel)
    {
        var (file, format) = (opened.File, opened.Format);
        var found = opened.Frames is null ? Count(opened, cancel) : opened.Found;
        using var writer = new WaveWriter(to, format, found, null);
        var numbers = new int[BlockFrames * format.Channels];
        var floats = new double[format.IsFloat ? numbers.Length : 0];
        var bytes = new byte[BlockFrames * format.BytesPerFrame];
        for (Frames done = 0; done < found;)
        {
            cancel.ThrowIfCancellationRequested();
            var wanted = Frames.Min(BlockFrames, found - done).Count;
            var got = format.IsFloat ? ReadDoubles(file, floats, wanted) : ReadInts(file, numbers, wanted);
            if (got <= 0)
            {
                // It says that it is longer than it is: what is there is kept.
                writer.FinishEarly();
                writer.TakeName();
                return done == 0 ? new Refusal("There is not one sample in this file that can be read.") : Early(opened, done);
            }

            var samples = (int)got * format.Channels;
            Encode(format.Sample, numbers.AsSpan(0, format.IsFloat ? 0 : samples), floats.AsSpan(0, format.IsFloat ? samples : 0), bytes);
            writer.Write(bytes.AsSpan(0, (int)got * format.BytesPerFrame));
            done += (int)got;
        }

        writer.Finish();
        writer.TakeName();
        return Early(opened, found);
    }

    /// <summary>A stream that was never told its length is read once only to count it.</summary>
    private static Frames Count(Opened opened, CancellationToken cancel)
    {
        var block = new int[BlockFrames * opened.Format.Channels];
        Frames count = 0;
        for (long got; (got = ReadInts(opened.File, block, BlockFrames)) > 0; count += new Frames(got))
        {
            cancel.ThrowIfCancellationRequested();
        }

        Seek(opened.File, 0, 0);
        return count;
    }

    /// <summary>A file that does not say how long it is ends where it ends.</summary>
    private static string[] Early(Opened opened, Frames done) =>
        [.. opened.Remarks, .. opened.Frames is { } said && done < said ? [CutOff(said, done, opened.Format)] : Array.Empty<string>()];

    /// <summary>libsndfile gives whole numbers with their highest bit on top, so the low bytes of narrower ones are empty.</summary>
    private static void Encode(SampleFormat format, ReadOnlySpan<int> numbers, ReadOnlySpan<double> floats, Span<byte> bytes)
    {
        for (var i = 0; i < numbers.Length; i++)
        {
            var value = numbers[i];
            switch (format)
            {
                case SampleFormat.Pcm8:
                    bytes[i] = (byte)((value >> 24) + 128);
                    break;
                case SampleFormat.Pcm16:
                    MemoryMarshal.Write(bytes[(2 * i)..], (short)(value >> 16));
                    break;
                case SampleFormat.Pcm24:
                    (bytes[3 * i], bytes[3 * i + 1], bytes[3 * i + 2]) = ((byte)(value >> 8), (byte)(value >> 16), (byte)(value >> 24));
                    break;
                default:
                    MemoryMarshal.Write(bytes[(4 * i)..], value);
                    break;
            }
        }

        for (var i = 0; i < floats.Length; i++)
        {
            if (format == SampleFormat.Float32)
            {
                MemoryMarshal.Write(bytes[(4 * i)..], (float)floats[i]);
            }
            else
            {
                MemoryMarshal.Write(bytes[(8 * i)..], floats[i]);
            }
        }
    }

    /// <summary>The subtypes of sndfile.h that hold samples without loss.</summary>
    private static SampleFormat? Sample(int subtype) => subtype switch
    {
        0x0001 or 0x0005 => SampleFormat.Pcm8,
        0x0002 => SampleFormat.Pcm16,
        0x0003 => SampleFormat.Pcm24,
        0x0004 => SampleFormat.Pcm32,
        0x0006 => SampleFormat.Float32,
        0x0007 => SampleFormat.Float64,
        _ => null,
    };

    /// <param name="File">The open file.</param>
    /// <param name="Format">The shape of its samples.</param>
    /// <param name="Found">Frames that the library believes to be there.</param>
    /// <param name="Frames">Frames the file says it has; null if it does not say.</param>
    /// <param name="Remarks">What showed when it was opened.</param>
    private sealed record Opened(SndFile File, AudioFormat Format, Frames Found, Frames? Frames, ImmutableArray<string> Remarks);
}

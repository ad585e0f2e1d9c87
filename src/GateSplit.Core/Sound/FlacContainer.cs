using System.Collections.Immutable;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// FLAC through the system's libsndfile: read by <see cref="SoundFile"/>. The encoder goes back to the start of its file when it ends, so the
/// file is written beside and then read.
/// </summary>
public sealed class FlacContainer : IContainer
{
    private const int Kind = 0x170000; // SF_FORMAT_FLAC
    private const int In16 = 2; // SF_FORMAT_PCM_16
    private const int In24 = 3; // SF_FORMAT_PCM_24
    private const int SetCompression = 0x1301; // SFC_SET_COMPRESSION_LEVEL
    private const double Level = 5 / 8.0; // of 8, as the format's own tools have it by default
    private const int BlockFrames = 16384;
    private const int PieceBytes = 1 << 20;

    /// <inheritdoc/>
    public string Id => "flac";

    /// <inheritdoc/>
    public string Name => "FLAC";

    /// <inheritdoc/>
    public string Ending => ".flac";

    /// <inheritdoc/>
    public ImmutableArray<SampleFormat> Samples => [SampleFormat.Pcm16, SampleFormat.Pcm24];

    /// <inheritdoc/>
    public int MostChannels => 8;

    /// <summary>Where nothing can be saved the samples are stored as they are, with some bytes for each frame of 4,096.</summary>
    public Bytes AtMost(AudioFormat format, Frames frames, FileLabel? label) =>
        format.Bytes(frames) + new Bytes(8192 + 32 * frames.Stretches(4096) + FlacComments.Of(label, format.SampleRate).Length);

    /// <inheritdoc/>
    public IEnumerable<ReadOnlyMemory<byte>> Pieces(IRecording from, AudioFormat format, FileLabel? label, string folder)
    {
        if (format.Channels > MostChannels)
        {
            throw new IOException($"FLAC holds at most {MostChannels} channels; this file has {format.Channels}.");
        }

        var path = Path.Combine(folder, Path.GetRandomFileName() + ".flac");
        try
        {
            Encode(from, format, path);
            using var file = File.OpenRead(path);
            yield return FlacComments.Head(file, FlacComments.Of(label, format.SampleRate));
            var bytes = new byte[PieceBytes];
            for (int count; (count = file.Read(bytes)) > 0;)
            {
                yield return bytes.AsMemory(0, count);
            }
        }
        finally
        {
            File.Delete(path);
        }
    }

    private static void Encode(IRecording from, AudioFormat format, string path)
    {
        var info = new LibSndFile.Info { SampleRate = format.SampleRate.Hz, Channels = format.Channels, Format = Kind | (format.Sample == SampleFormat.Pcm16 ? In16 : In24) };
        using var file = LibSndFile.Open(path, LibSndFile.Writing, ref info);
        if (file.IsInvalid)
        {
            throw new IOException($"A FLAC file of {Words.Count(format.Channels, "channel")} at {format.SampleRate} cannot be written.");
        }

        var level = Level;
        LibSndFile.Command(file, SetCompression, ref level, sizeof(double));
        var numbers = new int[BlockFrames * format.Channels];
        foreach (var samples in FormatConverter.Convert(from, format))
        {
            var count = samples.Length / format.BytesPerSample;
            Widen(samples.Span, format.Sample, numbers.AsSpan(0, count));
            if (LibSndFile.WriteInts(file, numbers, count / format.Channels) != count / format.Channels)
            {
                throw new IOException("The disk took no more of a FLAC file.");
            }
        }
    }

    /// <summary>To whole numbers with their highest bit on top.</summary>
    private static void Widen(ReadOnlySpan<byte> samples, SampleFormat format, Span<int> numbers)
    {
        if (format == SampleFormat.Pcm16)
        {
            var narrow = MemoryMarshal.Cast<byte, short>(samples);
            for (var i = 0; i < numbers.Length; i++)
            {
                numbers[i] = narrow[i] << 16;
            }

            return;
        }

        var at = 0;
        var spread = Vector128.Create((byte)16, 0, 1, 2, 16, 3, 4, 5, 16, 6, 7, 8, 16, 9, 10, 11); // a place that is not there gives 0
        for (; Vector128.IsHardwareAccelerated && 3 * at + Vector128<byte>.Count <= samples.Length; at += Vector128<int>.Count)
        {
            Vector128.Shuffle(Vector128.Create(samples[(3 * at)..]), spread).AsInt32().CopyTo(numbers[at..]);
        }

        for (; at < numbers.Length; at++)
        {
            numbers[at] = (samples[3 * at] << 8) | (samples[3 * at + 1] << 16) | (samples[3 * at + 2] << 24);
        }
    }
}

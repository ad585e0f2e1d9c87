using System.Buffers.Binary;
using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace GateSplit.Core.Sound;

/// <summary>Between stored samples and floats at full scale 1.0. Up to 24 bit the way to float and back is exact.</summary>
public static class SampleCodec
{
    private const int PairBytes24 = 6;
    private const float Scale24 = 8388608f;

    /// <summary>Decodes one channel out of interleaved frames. What is no number, infinite, or beyond 32-bit floats is taken as 0.</summary>
    /// <param name="frames">Whole interleaved frames in <paramref name="format"/>.</param>
    /// <param name="format">Their shape.</param>
    /// <param name="channel">0-based channel.</param>
    /// <param name="into">Receives one float a frame.</param>
    /// <returns>How many samples were no number and taken as 0.</returns>
    public static int Decode(ReadOnlySpan<byte> frames, AudioFormat format, int channel, Span<float> into)
    {
        var step = format.BytesPerFrame;
        var at = channel * format.BytesPerSample;
        var none = 0;
        switch (format.Sample)
        {
            case SampleFormat.Pcm8:
                for (var i = 0; i < into.Length; i++, at += step)
                {
                    into[i] = (frames[at] - 128) / 128f;
                }

                break;
            case SampleFormat.Pcm16:
                for (var i = 0; i < into.Length; i++, at += step)
                {
                    into[i] = BinaryPrimitives.ReadInt16LittleEndian(frames[at..]) / 32768f;
                }

                break;
            case SampleFormat.Pcm24:
                var unpacked = Unpack24(frames, step, at, into);
                at += unpacked * step;
                for (var i = unpacked; i < into.Length; i++, at += step)
                {
                    into[i] = (frames[at] | (frames[at + 1] << 8) | ((sbyte)frames[at + 2] << 16)) / Scale24;
                }

                break;
            case SampleFormat.Pcm32:
                for (var i = 0; i < into.Length; i++, at += step)
                {
                    into[i] = (float)(BinaryPrimitives.ReadInt32LittleEndian(frames[at..]) / 2147483648.0);
                }

                break;
            case SampleFormat.Float32:
                for (var i = 0; i < into.Length; i++, at += step)
                {
                    into[i] = Finite(BinaryPrimitives.ReadSingleLittleEndian(frames[at..]), ref none);
                }

                break;
            default:
                for (var i = 0; i < into.Length; i++, at += step)
                {
                    into[i] = Finite((float)BinaryPrimitives.ReadDoubleLittleEndian(frames[at..]), ref none);
                }

                break;
        }

        return none;
    }

    /// <summary>Decodes 24-bit samples of a file of one channel or two, four at a time: each in the upper three bytes of a number, which is then shifted down with its sign.</summary>
    /// <returns>How many were decoded; the last few are left, since each load takes bytes of the next ones.</returns>
    private static int Unpack24(ReadOnlySpan<byte> frames, int step, int at, Span<float> into)
    {
        const int Four = 4;
        if (step is not (3 or PairBytes24))
        {
            return 0;
        }

        ref var bytes = ref MemoryMarshal.GetReference(frames);
        ref var samples = ref MemoryMarshal.GetReference(into);
        var (all, done) = (Vector128.Create(byte.MaxValue, 0, 1, 2, byte.MaxValue, 3, 4, 5, byte.MaxValue, 6, 7, 8, byte.MaxValue, 9, 10, 11), 0);
        var (low, high) = (Pair(at, first: true), Pair(at, first: false));
        var scale = Vector128.Create(1 / Scale24);
        for (var from = 0; done + Four <= into.Length; done += Four, from += Four * step)
        {
            if (from + (step == 3 ? 0 : 2 * PairBytes24) + Vector128<byte>.Count > frames.Length)
            {
                break;
            }

            var packed = step == 3
                ? Vector128.Shuffle(Vector128.LoadUnsafe(ref bytes, (nuint)from), all)
                : Vector128.Shuffle(Vector128.LoadUnsafe(ref bytes, (nuint)from), low) | Vector128.Shuffle(Vector128.LoadUnsafe(ref bytes, (nuint)(from + 2 * PairBytes24)), high);
            (Vector128.ConvertToSingle(Vector128.ShiftRightArithmetic(packed.AsInt32(), 8)) * scale).StoreUnsafe(ref samples, (nuint)done);
        }

        return done;

        // Two samples of one side of a pair, in the lower or the upper half; what is beyond the end is 0.
        static Vector128<byte> Pair(int side, bool first)
        {
            var places = Vector128.Create(byte.MaxValue);
            for (var i = 0; i < 2 * Four; i++)
            {
                places = i % Four == 0 ? places : places.WithElement((first ? 0 : 2 * Four) + i, (byte)(side + i / Four * PairBytes24 + i % Four - 1));
            }

            return places;
        }
    }

    /// <summary>Encodes one channel into interleaved frames. Integers are rounded to nearest and held at full scale.</summary>
    /// <param name="samples">One float a frame; replaced by what the encoded sample decodes to.</param>
    /// <param name="format">16 or 24 bit integer or 32 bit float.</param>
    /// <param name="channel">0-based channel to fill.</param>
    /// <param name="frames">Receives the bytes; other channels are left alone.</param>
    public static void Encode(Span<float> samples, AudioFormat format, int channel, Span<byte> frames)
    {
        Quantise(samples, format.Sample);
        Store(samples, format, channel, frames);
    }

    /// <summary>Encodes all channels of a file at once, by way of interleaved floats.</summary>
    /// <param name="left">One float a frame; replaced by what the encoded sample decodes to.</param>
    /// <param name="right">The same of the right channel; empty for a mono file.</param>
    /// <param name="sample">16 or 24 bit integer or 32 bit float.</param>
    /// <param name="interleaved">Space for the floats of both channels; not used for a mono file.</param>
    /// <param name="frames">Receives the bytes.</param>
    public static void Encode(Span<float> left, Span<float> right, SampleFormat sample, Span<float> interleaved, Span<byte> frames)
    {
        var mono = new AudioFormat(1, 1, sample);
        var packed = !right.IsEmpty && sample == SampleFormat.Pcm24 ? PackPairs24(left, right, frames) : 0;
        left = left[packed..];
        right = right[packed..];
        frames = frames[(packed * PairBytes24)..];
        Quantise(left, sample);
        if (right.IsEmpty)
        {
            Store(left, mono, 0, frames);
            return;
        }

        Quantise(right, sample);
        Interleave(left, right, interleaved);
        Store(interleaved[..(2 * left.Length)], mono, 0, frames);
    }

    /// <summary>Writes quantised samples of one channel into interleaved frames.</summary>
    private static void Store(ReadOnlySpan<float> samples, AudioFormat format, int channel, Span<byte> frames)
    {
        var step = format.BytesPerFrame;
        var at = channel * format.BytesPerSample;
        switch (format.Sample)
        {
            case SampleFormat.Pcm16:
                for (var i = 0; i < samples.Length; i++, at += step)
                {
                    BinaryPrimitives.WriteInt16LittleEndian(frames[at..], (short)(samples[i] * 32768f));
                }

                break;
            case SampleFormat.Pcm24:
                var packed = step == 3 ? Pack24(samples, frames) : 0;
                at += packed * step;
                for (var i = packed; i < samples.Length; i++, at += step)
                {
                    var value = (int)(samples[i] * Scale24);
                    BinaryPrimitives.WriteInt16LittleEndian(frames[at..], (short)value);
                    frames[at + 2] = (byte)(value >> 16);
                }

                break;
            default:
                for (var i = 0; i < samples.Length; i++, at += step)
                {
                    BinaryPrimitives.WriteSingleLittleEndian(frames[at..], samples[i]);
                }

                break;
        }
    }

    private static void Interleave(ReadOnlySpan<float> left, ReadOnlySpan<float> right, Span<float> interleaved)
    {
        var lefts = MemoryMarshal.Cast<float, Vector128<float>>(left);
        var rights = MemoryMarshal.Cast<float, Vector128<float>>(right)[..lefts.Length];
        var pairs = MemoryMarshal.Cast<float, Vector256<float>>(interleaved)[..lefts.Length];
        for (var i = 0; i < pairs.Length; i++)
        {
            pairs[i] = Vector256.Shuffle(Vector256.Create(lefts[i], rights[i]), Vector256.Create(0, 4, 1, 5, 2, 6, 3, 7));
        }

        for (var i = 4 * lefts.Length; i < left.Length; i++)
        {
            interleaved[2 * i] = left[i];
            interleaved[2 * i + 1] = right[i];
        }
    }

    /// <summary>Quantises and packs pairs of samples, eight pairs at a time.</summary>
    /// <returns>How many pairs were packed; the last few are left, since every store touches bytes of the next ones.</returns>
    private static int PackPairs24(Span<float> left, Span<float> right, Span<byte> bytes)
    {
        const int lanes = 8, packed = lanes * PairBytes24, stored = packed + 4;
        var lefts = MemoryMarshal.Cast<float, Vector256<float>>(left);
        var rights = MemoryMarshal.Cast<float, Vector256<float>>(right)[..lefts.Length];
        ref var into = ref MemoryMarshal.GetReference(bytes);
        var most = Math.Min(lefts.Length, (bytes.Length - (stored - packed)) / packed);
        var count = 0;
        for (; count < most; count++)
        {
            var l = Quantise24(ref lefts[count]);
            var r = Quantise24(ref rights[count]);

            // The compiler makes one instruction of each of these only where the order stands in the call.
            var first =
                Vector256.Shuffle(l, Vector256.Create((byte)0, 1, 2, 255, 255, 255, 4, 5, 6, 255, 255, 255, 255, 255, 255, 255, 16, 17, 18, 255, 255, 255, 20, 21, 22, 255, 255, 255, 255, 255, 255, 255))
                | Vector256.Shuffle(r, Vector256.Create((byte)255, 255, 255, 0, 1, 2, 255, 255, 255, 4, 5, 6, 255, 255, 255, 255, 255, 255, 255, 16, 17, 18, 255, 255, 255, 20, 21, 22, 255, 255, 255, 255));
            var last =
                Vector256.Shuffle(l, Vector256.Create((byte)8, 9, 10, 255, 255, 255, 12, 13, 14, 255, 255, 255, 255, 255, 255, 255, 24, 25, 26, 255, 255, 255, 28, 29, 30, 255, 255, 255, 255, 255, 255, 255))
                | Vector256.Shuffle(r, Vector256.Create((byte)255, 255, 255, 8, 9, 10, 255, 255, 255, 12, 13, 14, 255, 255, 255, 255, 255, 255, 255, 24, 25, 26, 255, 255, 255, 28, 29, 30, 255, 255, 255, 255));
            var at = (nuint)(count * packed);
            first.GetLower().StoreUnsafe(ref into, at);
            last.GetLower().StoreUnsafe(ref into, at + 12);
            first.GetUpper().StoreUnsafe(ref into, at + 24);
            last.GetUpper().StoreUnsafe(ref into, at + 36);
        }

        return count * lanes;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<byte> Quantise24(ref Vector256<float> samples)
    {
        var steps = Vector256.MaxNative(Vector256.Create(-Scale24), Vector256.MinNative(Vector256.Create(Scale24 - 1), Vector256.Round(samples * Scale24)));
        samples = steps * (1 / Scale24); // a power of two, so exact
        return Vector256.ConvertToInt32Native(steps).AsByte();
    }

    private static float Finite(float sample, ref int none)
    {
        if (float.IsFinite(sample))
        {
            return sample;
        }

        none++;
        return 0;
    }

    /// <summary>Packs quantised samples of one channel eight at a time.</summary>
    /// <returns>How many were packed; the last few are left, since every store touches bytes of the next ones.</returns>
    private static int Pack24(ReadOnlySpan<float> samples, Span<byte> bytes)
    {
        const int lanes = 8, packed = 24, stored = 32;
        var groups = MemoryMarshal.Cast<float, Vector256<float>>(samples);
        bytes = bytes[..(samples.Length * packed / lanes)];
        var count = 0;
        while (count * packed + stored <= bytes.Length)
        {
            var values = Vector256.ConvertToInt32Native(groups[count] * Scale24);
            var packedInHalves = Vector256.Shuffle(
                values.AsByte(),
                Vector256.Create((byte)0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 255, 255, 255, 255, 16, 17, 18, 20, 21, 22, 24, 25, 26, 28, 29, 30, 255, 255, 255, 255));
            Vector256.Shuffle(packedInHalves.AsInt32(), Vector256.Create(0, 1, 2, 4, 5, 6, 7, 7)).AsByte().CopyTo(bytes[(count * packed)..]);
            count++;
        }

        return count * lanes;
    }

    /// <summary>To the nearest step of an integer format, within its range.</summary>
    private static void Quantise(Span<float> samples, SampleFormat format)
    {
        if (format == SampleFormat.Float32)
        {
            return;
        }

        var scale = format switch
        {
            SampleFormat.Pcm16 => 32768f,
            SampleFormat.Pcm24 => Scale24,
            _ => throw new NotSupportedException("Samples of this width are read, never written from floats."),
        };
        var lowest = new Vector<float>(-scale);
        var highest = new Vector<float>(scale - 1);
        var step = new Vector<float>(1 / scale); // a power of two, so exact
        var vectors = MemoryMarshal.Cast<float, Vector<float>>(samples);
        foreach (ref var vector in vectors)
        {
            vector = Vector.MaxNative(lowest, Vector.MinNative(highest, Vector.Round(vector * scale))) * step;
        }

        foreach (ref var sample in samples[(vectors.Length * Vector<float>.Count)..])
        {
            sample = Math.Clamp(MathF.Round(sample * scale), -scale, scale - 1) / scale;
        }
    }
}

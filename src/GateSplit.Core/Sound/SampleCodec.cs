using System.Buffers.Binary;

namespace GateSplit.Core.Sound;

/// <summary>Between stored samples and floats at full scale 1.0. Up to 24 bit the way to float and back is exact.</summary>
public static class SampleCodec
{
    private const float Scale24 = 8388608f;

    /// <summary>Decodes one channel out of interleaved frames.</summary>
    /// <param name="frames">Whole interleaved frames in <paramref name="format"/>.</param>
    /// <param name="format">Their shape.</param>
    /// <param name="channel">0-based channel.</param>
    /// <param name="into">Receives one float a frame.</param>
    public static void Decode(ReadOnlySpan<byte> frames, AudioFormat format, int channel, Span<float> into)
    {
        var step = format.BytesPerFrame;
        var at = channel * format.BytesPerSample;
        for (var i = 0; i < into.Length; i++, at += step)
        {
            var bytes = frames[at..];
            into[i] = format.Sample switch
            {
                SampleFormat.Pcm8 => (bytes[0] - 128) / 128f,
                SampleFormat.Pcm16 => BinaryPrimitives.ReadInt16LittleEndian(bytes) / 32768f,
                SampleFormat.Pcm24 => (bytes[0] | (bytes[1] << 8) | ((sbyte)bytes[2] << 16)) / Scale24,
                SampleFormat.Pcm32 => (float)(BinaryPrimitives.ReadInt32LittleEndian(bytes) / 2147483648.0),
                SampleFormat.Float32 => BinaryPrimitives.ReadSingleLittleEndian(bytes),
                _ => (float)BinaryPrimitives.ReadDoubleLittleEndian(bytes),
            };
        }
    }

    /// <summary>Encodes one channel into interleaved frames. Integers are rounded to nearest and held at full scale.</summary>
    /// <param name="samples">One float a frame.</param>
    /// <param name="format">16, 24 or 32 bit integer or 32 bit float.</param>
    /// <param name="channel">0-based channel to fill.</param>
    /// <param name="frames">Receives the bytes; other channels are left alone.</param>
    public static void Encode(ReadOnlySpan<float> samples, AudioFormat format, int channel, Span<byte> frames)
    {
        var step = format.BytesPerFrame;
        var at = channel * format.BytesPerSample;
        switch (format.Sample)
        {
            case SampleFormat.Pcm16:
                for (var i = 0; i < samples.Length; i++, at += step)
                {
                    BinaryPrimitives.WriteInt16LittleEndian(frames[at..], (short)ToInteger(samples[i], 32768f, 32767));
                }

                break;
            case SampleFormat.Pcm24:
                for (var i = 0; i < samples.Length; i++, at += step)
                {
                    var value = ToInteger(samples[i], Scale24, 8388607);
                    var place = frames.Slice(at, 3);
                    place[0] = (byte)value;
                    place[1] = (byte)(value >> 8);
                    place[2] = (byte)(value >> 16);
                }

                break;
            case SampleFormat.Float32:
                for (var i = 0; i < samples.Length; i++, at += step)
                {
                    BinaryPrimitives.WriteSingleLittleEndian(frames[at..], samples[i]);
                }

                break;
            default:
                throw new NotSupportedException($"{format.WidthName} is read, never written from floats.");
        }
    }

    private static int ToInteger(float sample, float scale, int highest)
    {
        var value = MathF.Round(sample * scale, MidpointRounding.ToEven);
        return value >= highest ? highest : value <= -scale ? (int)-scale : (int)value;
    }
}

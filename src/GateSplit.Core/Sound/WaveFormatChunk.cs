using System.Buffers.Binary;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>The fmt chunk of a WAVE file, plain or extensible (Multimedia Programming Interface and Data Specifications 1.0; WAVEFORMATEXTENSIBLE).</summary>
internal static class WaveFormatChunk
{
    /// <summary>Reads it.</summary>
    /// <param name="at">Where in the file the chunk begins, for the sentence.</param>
    /// <param name="body">Its first 40 bytes, or fewer.</param>
    /// <param name="remarks">Told what is odd and was read all the same.</param>
    /// <returns>The shape of the samples, or why they cannot be read.</returns>
    public static Result<AudioFormat> Read(Bytes at, byte[] body, List<string> remarks)
    {
        if (body.Length < 16)
        {
            return new Refusal($"The fmt chunk at byte {at.Count} is cut off.");
        }

        int tag = BinaryPrimitives.ReadUInt16LittleEndian(body);
        int channels = BinaryPrimitives.ReadUInt16LittleEndian(body.AsSpan(2));
        var told = BinaryPrimitives.ReadUInt32LittleEndian(body.AsSpan(4));
        var rate = SampleRate.Of(told);
        int align = BinaryPrimitives.ReadUInt16LittleEndian(body.AsSpan(12));
        int bits = BinaryPrimitives.ReadUInt16LittleEndian(body.AsSpan(14));
        if (tag == 0xFFFE && body.Length >= 26)
        {
            tag = BinaryPrimitives.ReadUInt16LittleEndian(body.AsSpan(24));
        }

        if (channels == 0)
        {
            return new Refusal("The file says it has no channels, so there is nothing to read.");
        }

        if (channels > AudioFormat.MostChannels)
        {
            return new Refusal($"The file says it has {channels} channels; {AudioFormat.MostChannels} is the most that is read.");
        }

        if (!SampleRate.Limits.Hold(rate))
        {
            return new Refusal($"The file says its sample rate is {told} Hz; {SampleRate.Limits.Low.Hz} to {SampleRate.Limits.High} is read.");
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
            return new Refusal(tag is 1 or 3
                ? $"The file says its samples are {bits} bits wide in {Words.Count(bytes, "byte")}, which is not a width that is read."
                : $"The samples are compressed or of an unknown kind (format {tag}). Save the file as PCM or float first.");
        }

        if (align != channels * bytes)
        {
            remarks.Add($"The fmt chunk gives a frame of {Words.Count(align, "byte")} where {channels * bytes} are right; the right one was used.");
        }

        return new AudioFormat(channels, rate, sample.Value);
    }
}

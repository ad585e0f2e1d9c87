using System.Runtime.InteropServices;
using CsCheck;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

public sealed class SampleCodecTests
{
    [Theory]
    [InlineData(SampleFormat.Pcm16)]
    [InlineData(SampleFormat.Pcm24)]
    [InlineData(SampleFormat.Float32)]
    public void What_fits_a_float_comes_back_bit_by_bit(SampleFormat sample)
    {
        var format = new AudioFormat(2, 48000, sample);
        Gen.Byte.Array[12 * format.BytesPerFrame].Sample(bytes =>
        {
            if (sample == SampleFormat.Float32 && MemoryMarshal.Cast<byte, float>(bytes).ToArray().Any(x => !float.IsFinite(x)))
            {
                return true;
            }

            var back = new byte[bytes.Length];
            var floats = new float[12];
            for (var channel = 0; channel < 2; channel++)
            {
                SampleCodec.Decode(bytes, format, channel, floats);
                SampleCodec.Encode(floats, format, channel, back);
            }

            return back.AsSpan().SequenceEqual(bytes);
        });
    }

    [Theory]
    [InlineData(SampleFormat.Pcm16, 1)]
    [InlineData(SampleFormat.Pcm16, 2)]
    [InlineData(SampleFormat.Pcm24, 1)]
    [InlineData(SampleFormat.Pcm24, 2)]
    public void A_file_of_any_length_holds_every_sample_rounded_to_the_nearest_step(SampleFormat sample, int channels)
    {
        var scale = sample == SampleFormat.Pcm16 ? 32768.0 : 8388608.0;
        var width = sample == SampleFormat.Pcm16 ? 2 : 3;
        var random = new Random(7);
        for (var frames = 0; frames < 70; frames++)
        {
            var sides = Enumerable.Range(0, channels).Select(_ => Enumerable.Range(0, frames).Select(_ => (float)(2.4 * random.NextDouble() - 1.2)).ToArray()).ToArray();
            var asked = sides.Select(s => s.ToArray()).ToArray();
            var bytes = new byte[frames * channels * width];
            SampleCodec.Encode(sides[0], channels == 1 ? [] : sides[1], sample, new float[2 * frames], bytes);
            for (var i = 0; i < frames * channels; i++)
            {
                var step = (long)Math.Clamp(Math.Round(asked[i % channels][i / channels] * scale), -scale, scale - 1);
                var held = bytes.AsSpan(i * width, width);
                var read = held[0] + (held[1] << 8) + (width == 3 ? held[2] << 16 : 0);
                Assert.Equal(step, held[^1] < 128 ? read : read - (1 << (8 * width)));
                Assert.Equal(step / scale, sides[i % channels][i / channels]);
            }
        }
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Every_24_bit_sample_of_every_length_is_its_number_over_two_to_the_23(int channels)
    {
        var random = new Random(channels);
        var format = new AudioFormat(channels, 48000, SampleFormat.Pcm24);
        for (var frames = 0; frames < 70; frames++)
        {
            var bytes = new byte[frames * format.BytesPerFrame];
            random.NextBytes(bytes);
            for (var channel = 0; channel < channels; channel++)
            {
                var samples = new float[frames];
                Assert.Equal(0, SampleCodec.Decode(bytes, format, channel, samples));
                Assert.Equal(
                    Enumerable.Range(0, frames).Select(i => i * format.BytesPerFrame + 3 * channel).Select(at => ((sbyte)bytes[at + 2] * 65536 + bytes[at + 1] * 256 + bytes[at]) / 8388608f),
                    samples);
            }
        }
    }

    [Fact]
    public void Known_values_are_decoded_by_hand()
    {
        float One(SampleFormat sample, params byte[] bytes)
        {
            var into = new float[1];
            SampleCodec.Decode(bytes, new AudioFormat(1, 1, sample), 0, into);
            return into[0];
        }

        Assert.Equal(-1f, One(SampleFormat.Pcm8, 0));
        Assert.Equal(0f, One(SampleFormat.Pcm8, 128));
        Assert.Equal(-1f, One(SampleFormat.Pcm16, 0x00, 0x80));
        Assert.Equal(0.5f, One(SampleFormat.Pcm24, 0, 0, 0x40));
        Assert.Equal(-1f / 8388608, One(SampleFormat.Pcm24, 0xFF, 0xFF, 0xFF));
        Assert.Equal(0.25f, One(SampleFormat.Pcm32, 0, 0, 0, 0x20));
        Assert.Equal(-0.125f, One(SampleFormat.Float64, BitConverter.GetBytes(-0.125)));
    }

    [Theory]
    [InlineData(float.NaN)]
    [InlineData(float.PositiveInfinity)]
    [InlineData(float.NegativeInfinity)]
    public void What_is_no_number_is_silence(float value)
    {
        var into = new float[2];
        SampleCodec.Decode([.. BitConverter.GetBytes(value), .. BitConverter.GetBytes(0.5f)], new AudioFormat(1, 1, SampleFormat.Float32), 0, into);
        Assert.Equal([0f, 0.5f], into);
        SampleCodec.Decode([.. BitConverter.GetBytes((double)value), .. BitConverter.GetBytes(1e300)], new AudioFormat(1, 1, SampleFormat.Float64), 0, into);
        Assert.Equal([0f, 0f], into);
    }

    [Fact]
    public void Too_loud_is_held_at_full_scale()
    {
        var bytes = new byte[6];
        SampleCodec.Encode([1.5f, -1.5f], new AudioFormat(1, 1, SampleFormat.Pcm24), 0, bytes);
        Assert.Equal([0xFF, 0xFF, 0x7F, 0x00, 0x00, 0x80], bytes);
    }

    [Fact]
    public void Dither_makes_the_error_independent_of_a_level_between_two_steps()
    {
        // A constant a quarter step above zero is lost by rounding and kept on average by dither.
        var samples = Enumerable.Repeat(0.25f / 32768, 200_000).ToArray();
        new Dither(1).Apply(samples);
        var bytes = new byte[samples.Length * 2];
        SampleCodec.Encode(samples, new AudioFormat(1, 1, SampleFormat.Pcm16), 0, bytes);
        var steps = Enumerable.Range(0, samples.Length).Select(i => (double)BitConverter.ToInt16(bytes, i * 2)).ToList();
        Assert.Equal(0.25, steps.Average(), 0.01);
        var variance = steps.Average(s => (s - 0.25) * (s - 0.25));
        Assert.Equal(0.25, variance, 0.01); // TPDF: 1/6 from the dither and 1/12 from the rounding
    }
}

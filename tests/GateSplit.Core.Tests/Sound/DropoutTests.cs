using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

/// <summary>Holes and buffers that stand there twice are found where they were cut, and sounds that look alike are left alone; pairs that are one channel.</summary>
public sealed class DropoutTests
{
    private const int Rate = 48000;

    [Theory]
    [InlineData(16)]
    [InlineData(64)]
    [InlineData(500)]
    [InlineData(4800)]
    public void A_hole_in_a_sound_is_found_at_its_place(int length)
    {
        var sound = Noise(0.3f);
        sound.AsSpan(20000, length).Clear();
        var meter = Fed(sound);
        Assert.Equal((1, 20000, length, false), (meter.Count, meter.Found[0].Start.Count, meter.Found[0].Length.Count, meter.Found[0].Repeats));
    }

    [Theory]
    [InlineData(16000, 1600, 1)]
    [InlineData(16000, 1601, 0)]
    [InlineData(48000, 4800, 1)]
    [InlineData(48000, 4801, 0)]
    [InlineData(192000, 19200, 1)]
    [InlineData(192000, 19201, 0)]
    public void A_hole_lasts_a_tenth_of_a_second_at_most_at_any_rate(int rate, int length, int count) => Assert.Equal(count, Fed(Cleared(Noise(0.3f), length), rate: rate).Count);

    [Theory]
    [InlineData(48000, 40, 1)]
    [InlineData(48000, 60, 0)]
    [InlineData(192000, 180, 1)]
    [InlineData(192000, 210, 0)]
    [InlineData(16000, 14, 1)]
    [InlineData(16000, 20, 0)]
    public void What_is_about_a_hole_is_loud_within_a_millisecond_at_any_rate(int rate, int soft, int count)
    {
        var sound = Cleared(Noise(0.3f), 100);
        foreach (var i in Enumerable.Range(20100, soft))
        {
            sound[i] = 0.001f;
        }

        Assert.Equal(count, Fed(sound, rate: rate).Count);
    }

    [Theory]
    [InlineData(32)]
    [InlineData(256)]
    [InlineData(2048)]
    public void A_buffer_that_stands_there_twice_is_found(int size)
    {
        var sound = Noise(0.3f);
        sound.AsSpan(20000 - size, size).CopyTo(sound.AsSpan(20000));
        var meter = Fed(sound);
        Assert.Equal((1, 20000, size, true), (meter.Count, meter.Found[0].Start.Count, meter.Found[0].Length.Count, meter.Found[0].Repeats));
    }

    [Fact]
    public void The_result_does_not_depend_on_the_blocks()
    {
        var sound = Noise(0.3f);
        sound.AsSpan(10000, 100).Clear();
        sound.AsSpan(30000 - 128, 128).CopyTo(sound.AsSpan(30000));
        Assert.Equal(Fed(sound).Found.AsEnumerable(), Fed(sound, 7).Found.AsEnumerable());
        Assert.Equal(2, Fed(sound, 1).Count);
    }

    public static TheoryData<string, float[]> Sane => new()
    {
        { "fifteen zeros", Cleared(Noise(0.3f), 15) },
        { "zeros in what is quiet", Cleared(Noise(0.002f), 100) },
        { "silence", new float[Rate] },
        { "a sound that dies away into zeros and another after them", [.. Noise(0.3f).Select((s, i) => (float)Math.Round(s * Math.Exp(-i / 900.0) * 32767) / 32767), .. Noise(0.3f)] },
        { "a tone that fits every buffer", [.. Enumerable.Range(0, Rate).Select(i => 0.5f * MathF.Sin(2 * MathF.PI * (i % 32) / 32))] },
        { "a tone that begins and ends", [.. new float[1000], .. Enumerable.Range(0, 9600).Select(i => 0.5f * MathF.Sin(2 * MathF.PI * (i % 64) / 64)), .. new float[1000]] },
        { "what stands still", [.. Noise(0.3f), .. Enumerable.Repeat(0.25f, 100), .. Noise(0.3f)] },
        { "noise", Noise(0.9f) },
    };

    [Theory]
    [MemberData(nameof(Sane))]
    public void What_looks_alike_is_left_alone(string what, float[] sound) => Assert.True(Fed(sound).Count == 0, what);

    [Fact]
    public void More_than_are_kept_are_counted()
    {
        var sound = Noise(0.3f);
        for (var i = 0; i < 150; i++)
        {
            sound.AsSpan(300 * i + 100, 20).Clear();
        }

        Assert.Equal((150, DropoutMeter.MostKept), (Fed(sound).Count, Fed(sound).Found.Length));
    }

    [Fact]
    public void A_pair_of_one_channel_is_told_from_one_that_is_nearly()
    {
        var left = Noise(0.3f);
        (bool One, bool Upside) Told(Func<float, int, float> right)
        {
            var meter = new PairMeter();
            meter.Add(left, [.. left.Select(right)]);
            return (meter.IsOneChannel, meter.IsUpsideDown);
        }

        // The side is half the difference of the two: at 89 dB under the middle there is something, at 91 nothing.
        double At(double below) => 2 * Math.Pow(10, -below / 20);
        Assert.Equal((true, false), Told((s, _) => s));
        Assert.Equal((true, false), Told((s, _) => (float)(s * (1 + At(93)))));
        Assert.Equal((false, false), Told((s, _) => (float)(s * (1 + At(87)))));
        Assert.Equal((false, true), Told((s, _) => -s));
        Assert.Equal((false, false), Told((_, i) => left[^(i + 1)]));
        Assert.Equal((false, false), Told((_, _) => 0));
        Assert.Equal((false, false), (new PairMeter().IsOneChannel, new PairMeter().IsUpsideDown));
    }

    private static float[] Cleared(float[] sound, int length)
    {
        sound.AsSpan(20000, length).Clear();
        return sound;
    }

    private static DropoutMeter Fed(float[] sound, int block = 4096, int rate = Rate)
    {
        var meter = new DropoutMeter(rate);
        foreach (var part in sound.Chunk(block))
        {
            meter.Add(part);
        }

        return meter;
    }

    private static float[] Noise(float peak)
    {
        var random = new Random(4);
        return [.. Enumerable.Range(0, Rate).Select(_ => peak * (2 * random.NextSingle() - 1))];
    }
}

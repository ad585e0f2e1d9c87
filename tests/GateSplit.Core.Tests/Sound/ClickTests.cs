using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

/// <summary>Clicks are found where they are, and what begins with a leap is none; how loud a file begins and ends.</summary>
public sealed class ClickTests
{
    private const int Rate = 48000;

    [Theory]
    [InlineData(300)]
    [InlineData(4096)]
    [InlineData(20000)]
    [InlineData(47950)]
    public void A_leap_in_a_sound_is_found_at_its_place(int at)
    {
        var sound = Sine(0.3);
        sound[at] += 0.2f;
        var meter = Fed(sound, 4096);
        Assert.Equal(1, meter.Count);
        Assert.InRange(meter.Found[0].At.Count, at, at + 3);
        foreach (var block in new[] { 1, 63, 10000 })
        {
            Assert.Equal(meter.Found, Fed(sound, block).Found);
        }
    }

    [Fact]
    public void A_step_in_the_wave_is_one_and_two_are_two()
    {
        var sound = Sine(0.3);
        for (var i = 24000; i < sound.Length; i++)
        {
            sound[i] += 0.1f;
        }

        Assert.Equal(1, Fed(sound, 4096).Count);
        sound[30000] -= 0.3f;
        Assert.Equal(2, Fed(sound, 4096).Count);
    }

    [Fact]
    public void A_spike_is_told_from_a_step_and_found_in_noise_that_hides_a_step()
    {
        var random = new Random(3);
        float[] Noise(double amplitude) => [.. Enumerable.Range(0, Rate).Select(_ => (float)(amplitude * (2 * random.NextDouble() - 1)))];
        var spiked = Noise(0.012);
        spiked[20000] += 0.2f;
        var spike = Assert.Single(Fed(spiked, 4096).Found);
        Assert.Equal((20000, true), (spike.At.Count, spike.Spike));
        var stepped = Sine(0.3);
        for (var i = 24000; i < 40000; i++)
        {
            stepped[i] += 0.1f;
        }

        Assert.Equal([false, false], Fed(stepped, 4096).Found.Select(c => c.Spike));

        // Two samples high is a spike, three held are two steps of a sound of few bits: with others like them about, they are its own.
        var two = Sine(0.1);
        (two[20000], two[20001]) = (two[20000] + 0.2f, two[20001] + 0.2f);
        Assert.True(Assert.Single(Fed(two, 4096).Found).Spike);
        var few = new float[Rate];
        for (var i = 10000; i < 12000; i += 500)
        {
            few.AsSpan(i, 4).Fill(0.02f);
        }

        Assert.Equal(0, Fed(few, 4096).Count);
    }

    [Fact]
    public void Sounds_that_begin_at_once_noise_and_tones_have_none()
    {
        var random = new Random(1);
        var struck = new float[Rate];
        for (var i = 12000; i < Rate; i++)
        {
            struck[i] = (float)(0.5 * Math.Exp(-(i - 12000) / 2000.0) * (2 * random.NextDouble() - 1));
        }

        Assert.Equal(0, Fed(struck, 4096).Count);
        Assert.Equal(0, Fed([.. Enumerable.Range(0, Rate).Select(_ => (float)(random.NextDouble() - 0.5))], 4096).Count);
        Assert.Equal(0, Fed(Sine(0.9), 4096).Count);
        Assert.Equal(0, Fed(new float[Rate], 4096).Count);
        Assert.Equal(0, Fed([], 4096).Count);
    }

    [Theory]
    [InlineData(480)]
    [InlineData(7)]
    [InlineData(100000)]
    public void The_ends_are_measured_over_ten_milliseconds(int block)
    {
        var sound = new float[Rate];
        sound.AsSpan(0, 480).Fill(0.5f);
        sound.AsSpan(Rate - 480).Fill(0.25f);
        var meter = new EndMeter(Rate);
        foreach (var part in sound.Chunk(block))
        {
            meter.Add(part);
        }

        Assert.Equal((-6.02, -12.04), (Math.Round(meter.First.Value, 2), Math.Round(meter.Last.Value, 2)));

        // What begins in the last 2 ms is as loud as it is there.
        meter.Add([.. new float[384], .. Enumerable.Repeat(0.25f, 96)]);
        Assert.Equal(-12.04, meter.Last.Value, 0.01);
        meter.Add([.. new float[384], .. new float[24], .. Enumerable.Repeat(0.25f, 72)]);
        Assert.Equal(-13.29, meter.Last.Value, 0.01); // three quarters of the energy

        // What has ended 2 ms before is as loud as it is over all 10.
        meter.Add([.. Enumerable.Repeat(0.25f, 384), .. new float[96]]);
        Assert.Equal(-13.01, meter.Last.Value, 0.01);

        // Shorter than that: what there is.
        var short_ = new EndMeter(Rate);
        short_.Add([0.5f, 0.5f]);
        Assert.Equal((-6.02, -6.02), (Math.Round(short_.First.Value, 2), Math.Round(short_.Last.Value, 2)));
    }

    private static float[] Sine(double amplitude) => [.. Enumerable.Range(0, Rate).Select(i => (float)(amplitude * Math.Sin(2 * Math.PI * 110 * i / Rate)))];

    private static ClickMeter Fed(float[] sound, int block)
    {
        var meter = new ClickMeter();
        foreach (var part in sound.Chunk(block))
        {
            meter.Add(part);
        }

        meter.Finish();
        return meter;
    }
}

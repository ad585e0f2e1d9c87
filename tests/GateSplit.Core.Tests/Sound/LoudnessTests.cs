using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

/// <summary>Loudness and its range on the synthetic signals of EBU Tech 3341 and 3342, at four sample rates.</summary>
public sealed class LoudnessTests
{
    private const int Tone = 1000; // Hz

    /// <summary>Number of the signal, its levels in dBFS with seconds, and what it must read, within 0.1.</summary>
    private static readonly (int Number, (double Level, double Seconds)[] Parts, double Loudness)[] Tech3341 =
    [
        (1, [(-23, 20)], -23),
        (2, [(-33, 20)], -33),
        (3, [(-36, 10), (-23, 60), (-36, 10)], -23),
        (4, [(-72, 10), (-36, 10), (-23, 60), (-36, 10), (-72, 10)], -23),
        (5, [(-26, 20), (-20, 20.1), (-26, 20)], -23),
    ];

    public static TheoryData<int> Rates => [44100, 48000, 88200, 96000];

    [Fact]
    public void The_filters_at_48_kHz_are_those_that_the_standard_prints()
    {
        var filter = new KWeighting(48000);
        Assert.Equal(1.53512485958697, filter.ShelfB.B0, 1e-10);
        Assert.Equal(-2.69169618940638, filter.ShelfB.B1, 1e-10);
        Assert.Equal(1.19839281085285, filter.ShelfB.B2, 1e-10);
        Assert.Equal(-1.69065929318241, filter.ShelfA.A1, 1e-10);
        Assert.Equal(0.73248077421585, filter.ShelfA.A2, 1e-10);
        Assert.Equal(-1.99004745483398, filter.HighPassA.A1, 1e-10);
        Assert.Equal(0.99007225036621, filter.HighPassA.A2, 1e-10);
    }

    [Theory]
    [MemberData(nameof(Rates))]
    public void Integrated_loudness_of_the_gating_signals(int rate)
    {
        foreach (var (number, parts, loudness) in Tech3341)
        {
            Near(loudness, Measure(rate, 2, parts).Integrated, $"signal {number}");
        }
    }

    [Theory]
    [MemberData(nameof(Rates))]
    public void Five_channels_count_as_table_3_says(int rate)
    {
        var meter = new LoudnessMeter(new SampleRate(rate), LoudnessMeter.OfSurround(5));
        double[] levels = [-28, -28, -24, -30, -30];
        Feed(meter, [.. levels.Select(l => Sine(rate, (l, 20)))], 1000);
        Near(-23, meter.Result().Integrated, "signal 6");
    }

    [Theory]
    [MemberData(nameof(Rates))]
    public void Short_term_and_momentary_find_their_loudest_window_wherever_it_begins(int rate)
    {
        Near(-23, Measure(rate, 2, [.. Enumerable.Repeat(new[] { (-20.0, 1.34), (-30.0, 1.66) }, 5).SelectMany(p => p)]).MaxShortTerm, "signal 9");
        Near(-23, Measure(rate, 2, [.. Enumerable.Repeat(new[] { (-20.0, 0.18), (-30.0, 0.22) }, 25).SelectMany(p => p)]).MaxMomentary, "signal 12");
        for (var i = 0; i < 20; i++)
        {
            Near(-23, Measure(rate, 2, (double.NegativeInfinity, 0.15 * i), (-23, 3), (double.NegativeInfinity, 1)).MaxShortTerm, $"signal 10, {i}");
            Near(-23, Measure(rate, 2, (double.NegativeInfinity, 0.02 * i), (-23, 0.4), (double.NegativeInfinity, 1)).MaxMomentary, $"signal 13, {i}");
        }
    }

    [Theory]
    [MemberData(nameof(Rates))]
    public void Range_of_the_signals_of_Tech_3342(int rate)
    {
        Near(10, Measure(rate, 2, (-20, 20), (-30, 20)).Range, "signal 1");
        Near(5, Measure(rate, 2, (-20, 20), (-15, 20)).Range, "signal 2");
        Near(20, Measure(rate, 2, (-40, 20), (-20, 20)).Range, "signal 3");
        Near(15, Measure(rate, 2, (-50, 20), (-35, 20), (-20, 20), (-35, 20), (-50, 20)).Range, "signal 4");
    }

    [Fact]
    public void Silence_and_what_is_too_short_have_no_loudness()
    {
        Assert.Equal(new Loudness(null, null, null, null), Measure(48000, 1));
        Assert.Equal(new Loudness(null, null, null, null), Measure(48000, 1, (-20, 0.3999)));
        var silent = Measure(48000, 2, (double.NegativeInfinity, 10));
        Assert.Equal((null, null, null, null), (silent.Integrated, silent.Range, silent.MaxMomentary, silent.MaxShortTerm));
        var below = Measure(48000, 2, (-70.5, 10)); // under the absolute gate, and yet there
        Assert.Null(below.Integrated);
        Near(-70.5, below.MaxMomentary, "below the gate");
        var brief = Measure(48000, 2, (-20, 0.4));
        Assert.Equal((null, null), (brief.Range, brief.MaxShortTerm));
        Near(-20, brief.Integrated, "one block");
    }

    [Fact]
    public void The_result_does_not_depend_on_the_blocks()
    {
        var random = new Random(5);
        var noise = new float[100_000];
        foreach (ref var sample in noise.AsSpan())
        {
            sample = random.NextSingle() - 0.5f;
        }

        Loudness In(int block)
        {
            var meter = new LoudnessMeter(new SampleRate(22050), LoudnessMeter.Even(1));
            Feed(meter, [noise], block);
            return meter.Result();
        }

        Assert.Equal(In(100_000).Integrated!.Value, In(7).Integrated!.Value, 1e-9);
        Assert.Equal(In(100_000).Range!.Value, In(4096).Range!.Value, 1e-9);
    }

    private static void Near(double wanted, double? got, string which) => Assert.True(got is { } value && Math.Abs(value - wanted) <= 0.1, $"{which}: {got}, not {wanted}");

    private static Loudness Measure(int rate, int channels, params (double Level, double Seconds)[] parts)
    {
        var meter = new LoudnessMeter(new SampleRate(rate), LoudnessMeter.Even(channels));
        var tone = Sine(rate, parts);
        Feed(meter, [.. Enumerable.Repeat(tone, channels)], 4096);
        return meter.Result();
    }

    private static void Feed(LoudnessMeter meter, ImmutableArray<float[]> channels, int block)
    {
        for (var at = 0; at < channels[0].Length; at += block)
        {
            var part = Math.Min(block, channels[0].Length - at);
            meter.Add([.. channels.Select(c => c.AsSpan(at, part).ToArray())], part);
        }
    }

    private static float[] Sine(int rate, params (double Level, double Seconds)[] parts)
    {
        var samples = new List<float>();
        foreach (var (level, seconds) in parts)
        {
            var (amplitude, end) = (Math.Pow(10, level / 20), samples.Count + (int)Math.Round(seconds * rate));
            for (var i = samples.Count; i < end; i++)
            {
                samples.Add((float)(amplitude * Math.Sin(2 * Math.PI * Tone * i / rate)));
            }
        }

        return [.. samples];
    }
}

using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Pads that were pressed by hand are told apart: loud ones that ring on, soft ones behind them, and those that are heard nowhere.</summary>
public sealed class HandOrderTests
{
    private const int Rate = 48000;
    private const int Mix = 3;
    private const int EchoReturn = 4;
    private static readonly double[] Toms = [1, 2.1, 3.0, 4.1];
    private static readonly double[] Hats = [5.4, 6.3, 7.45];
    private static readonly double[] Claps = [9, 10.1];

    [Theory]
    [InlineData(0.02)]
    [InlineData(0.004)] // 40 dB below the tom, which rings on
    public void Soft_hits_behind_loud_ones_that_ring_on_are_found(double hat)
    {
        var times = Times(hat)!.Value;
        Near(Toms, times[0]);
        Near(Hats, times[1]);
        Near(Claps, times[2]);
    }

    [Fact]
    public void What_rings_on_and_swells_just_before_a_hit_does_not_take_its_place()
    {
        var times = Times(0.02, new Onset(Hats[0] - 0.3, 0.001))!.Value;
        Near(Toms, times[0]);
        Near(Hats, times[1]);
    }

    [Fact]
    public void What_is_not_heard_takes_no_hits_from_its_neighbours()
    {
        var times = Times(0)!.Value;
        Near(Toms, times[0]);
        Assert.Equal([-1], times[1]);
        Near(Claps, times[2]);
    }

    [Theory]
    [InlineData(0.02)]
    [InlineData(0.06)] // 14 dB below the clap
    public void An_echo_on_a_channel_of_its_own_is_no_hit(double level)
    {
        var times = Times([Tom(Toms), Hat(Hats, 0.02), Clap(Claps), Clap([.. Claps.Select(c => c + 0.6)]) with { Channel = EchoReturn, Level = level }], 1, 2, 3)!.Value;
        Near(Toms, times[0]);
        Near(Hats, times[1]);
        Near(Claps, times[2]);
    }

    [Fact]
    public void As_far_from_the_hit_before_it_a_hit_as_loud_is_one()
    {
        double[] fast = [9, 9.72, 10.44];
        Near(fast, Times([Tom(Toms), Hat(Hats, 0.02), Clap(fast)], 1, 2, 3)!.Value[2]);
    }

    [Fact]
    public void Where_two_elements_sound_the_same_a_pause_tells_them_apart()
    {
        double[] first = [5.4, 6.3, 7.2], second = [9.2, 10.1];
        var times = Times([Tom(Toms), Hat(first, 0.2), Hat(second, 0.2)], 1, 2, 2)!.Value;
        Near(Toms, times[0]);
        Near(first, times[1]);
        Near(second, times[2]);
    }

    [Theory]
    [InlineData(3, true)]
    [InlineData(7, false)] // too little to tell anything
    public void Of_several_elements_one_is_heard(int others, bool told)
    {
        double[] all = [8, .. Claps];
        var times = Times([Clap(all)], [1, 2, 3, .. Enumerable.Range(0, others).Select(i => 1 + (i % 2))]);
        Assert.Equal(told, times is not null);
        if (told)
        {
            Near(all, times!.Value[2]);
            Assert.All(times.Value.RemoveAt(2), t => Assert.Equal([-1], t));
        }
    }

    [Fact]
    public void One_hit_tells_nothing() => Assert.Null(Times([Clap([9])], 1, 2, 3));

    private static void Near(double[] truth, ImmutableArray<double> heard)
    {
        Assert.Equal(truth.Length, heard.Length);
        Assert.All(truth.Zip(heard), p => Assert.Equal(p.First, p.Second, 0.03));
    }

    private static ImmutableArray<ImmutableArray<double>>? Times(double hat, params ImmutableArray<Onset> swells) =>
        Times([Tom(Toms), Hat(Hats, hat), Clap(Claps)], [1, 2, 3], swells);

    private static ImmutableArray<ImmutableArray<double>>? Times(Pad[] pads, params int[] planned) => Times(pads, planned, []);

    private static ImmutableArray<ImmutableArray<double>>? Times(Pad[] pads, int[] planned, ImmutableArray<Onset> swells)
    {
        // Each on an input of its own, and all in a mix on the fourth.
        var random = new Random(5);
        var channels = Enumerable.Range(0, EchoReturn + 1).Select(_ => Enumerable.Range(0, 12 * Rate).Select(_ => (float)(2e-5 * (2 * random.NextDouble() - 1))).ToArray()).ToArray();
        foreach (var pad in pads)
        {
            foreach (var time in pad.Times)
            {
                for (var i = 0; i < 3 * Rate && (int)(time * Rate) + i < 12 * Rate; i++)
                {
                    var sample = (float)(pad.Level * pad.Shape(i, 2 * random.NextDouble() - 1));
                    channels[pad.Channel][(int)(time * Rate) + i] += sample;
                    channels[Mix][(int)(time * Rate) + i] += pad.Channel == EchoReturn ? 0 : 0.5f * sample;
                }
            }
        }

        var call = new RollCall(1, [.. planned.Select((channel, i) => new Turn([], $"{i}", 10, 36 + i, false, [0], 0, [Planned(channel), Planned(Mix + 1)]))], [], []);
        var sounds = channels.Select(c => new Samples(c)).ToList();
        return new HandOrder(call, sounds, [swells.AddRange(Heard(sounds[0])), .. sounds.Skip(1).Select(Heard)]).Times();

        static ImmutableArray<Onset> Heard(Samples sound) => Onsets.Of(sound, TestContext.Current.CancellationToken);

        static PlannedInput Planned(int channel) => new(channel, Decibels.Unity, true);
    }

    private static Pad Tom(double[] times) =>
        new(0, times, 0.5, (i, _) => Math.Exp(-i / 30000.0) * Math.Sin(2 * Math.PI * 85 * i / Rate) * (1 + 0.3 * Math.Sin(2 * Math.PI * 4 * i / Rate)));

    private static Pad Hat(double[] times, double level) => new(1, times, level, (i, noise) => Math.Exp(-i / 1500.0) * (noise - 0.9 * Math.Sin(i)));

    private static Pad Clap(double[] times) => new(2, times, 0.3, (i, noise) => Math.Exp(-i / 5000.0) * noise);

    private sealed record Pad(int Channel, double[] Times, double Level, Func<int, double, double> Shape);
}

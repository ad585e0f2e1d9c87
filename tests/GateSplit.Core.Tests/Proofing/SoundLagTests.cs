using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>By how much later one sound is in another that runs slower or faster, where it is expected.</summary>
public sealed class SoundLagTests
{
    private const int Rate = 48000;
    private const int Seconds = 12;

    [Theory]
    [InlineData(0, 0)]
    [InlineData(400e-6, 0)]
    [InlineData(-400e-6, 0)]
    [InlineData(400e-6, 7)]
    public void A_lag_is_told_to_a_tenth_of_a_sample_whatever_the_two_clocks(double drift, double late)
    {
        var (one, other) = (Chords(t => t), Chords(t => (t - (late / Rate)) / (1 + drift)));
        var lag = SoundLag.Of(one, new Placed(other, (0, drift)), Starts, (0, SoundLag.Furthest), SoundLag.Place.Clear, TestContext.Current.CancellationToken);
        Assert.Equal(1, lag!.Value.Sign);
        Assert.Equal(late, lag.Value.Frames, 0.1); // 400 ppm are 3.3 samples in a window
    }

    [Theory]
    [InlineData(39, 0, 39.0)]
    [InlineData(41, 0, null)] // it rises on beyond what was asked
    [InlineData(-41, 0, null)]
    [InlineData(-39, 0, -39.0)]
    [InlineData(41, 3, 41.0)]
    public void A_lag_beyond_what_is_asked_is_not_told_as_the_last_of_it(double late, int near, double? told)
    {
        var (one, other) = (Chords(t => t), Chords(t => t - (late / Rate)));
        var lag = SoundLag.Of(one, other, Starts, ((double)near / Rate, 40.0 / Rate), SoundLag.Place.Clear, TestContext.Current.CancellationToken);
        Assert.Equal(told is null, lag is null);
        Assert.Equal(told ?? 0, lag?.Frames ?? 0, 0.1);
    }

    private static IEnumerable<long> Starts => Enumerable.Range(1, 10).Select(i => (long)((i + 0.5) * Rate) - (SoundLag.Window(Rate) / 8));

    /// <summary>Decaying chords of eight tones each, which can be told at any moment of either clock.</summary>
    private static Samples Chords(Func<double, double> time)
    {
        var random = new Random(4);
        var tones = Enumerable.Range(0, Seconds * 2).Select(_ => Enumerable.Range(0, 8).Select(_ => (Pitch: 200 + (6000 * random.NextDouble()), Phase: 6 * random.NextDouble())).ToArray()).ToArray();
        float At(double seconds)
        {
            var (chord, within) = ((int)Math.Floor(2 * seconds), seconds - (Math.Floor(2 * seconds) / 2));
            return chord < 0 || chord >= tones.Length ? 0 : (float)(Math.Exp(-6 * within) * Math.Min(1, within / 0.002) * tones[chord].Sum(t => 0.1 * Math.Sin((2 * Math.PI * t.Pitch * within) + t.Phase)));
        }

        return new([.. Enumerable.Range(0, Seconds * Rate).Select(i => At(time((double)i / Rate)))], Rate);
    }
}

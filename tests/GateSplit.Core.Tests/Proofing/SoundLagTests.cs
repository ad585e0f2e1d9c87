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
        // Decaying chords of eight tones each, which can be told at any moment of either clock.
        var random = new Random(4);
        var tones = Enumerable.Range(0, Seconds * 2).Select(_ => Enumerable.Range(0, 8).Select(_ => (Pitch: 200 + (6000 * random.NextDouble()), Phase: 6 * random.NextDouble())).ToArray()).ToArray();
        float At(double seconds)
        {
            var (chord, time) = ((int)Math.Floor(2 * seconds), seconds - (Math.Floor(2 * seconds) / 2));
            return chord < 0 || chord >= tones.Length ? 0 : (float)(Math.Exp(-6 * time) * Math.Min(1, time / 0.002) * tones[chord].Sum(t => 0.1 * Math.Sin((2 * Math.PI * t.Pitch * time) + t.Phase)));
        }

        Samples Sound(Func<double, double> time) => new([.. Enumerable.Range(0, Seconds * Rate).Select(i => At(time((double)i / Rate)))], Rate);
        var (one, other) = (Sound(t => t), Sound(t => (t - (late / Rate)) / (1 + drift)));
        var starts = Enumerable.Range(1, 10).Select(i => (long)((i + 0.5) * Rate) - (SoundLag.Window(Rate) / 8));
        var lag = SoundLag.Of(one, new Placed(other, (0, drift)), starts, (0, SoundLag.Furthest), SoundLag.Place.Clear, TestContext.Current.CancellationToken);
        Assert.Equal(1, lag!.Value.Sign);
        Assert.Equal(late, lag.Value.Frames, 0.1); // 400 ppm are 3.3 samples in a window
    }
}

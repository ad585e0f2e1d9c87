using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>The drift that all notes of a take tell together, with notes made up so that the truth is known.</summary>
public sealed class DriftFitTests
{
    [Theory]
    [InlineData(35e-6, 0)]
    [InlineData(-120e-6, 0)]
    [InlineData(0, 0)]
    [InlineData(35e-6, 0.15)] // of the notes are heard up to 9 ms beside
    public void Drift_is_told_within_what_it_says_it_may_be_wrong_by(double drift, double wrong)
    {
        var random = new Random(11);
        double Error(double deviation) => deviation * Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        var parts = Enumerable.Range(0, 4).Select(p => new Part($"P{p}", [.. Enumerable.Range(0, 120).Select(n => 0.4 * n + 0.1 * p)], false)).ToList();
        var tracks = parts.Select((part, p) => Heard(p, part, note => p * 0.002 + drift * note + Error(0.001) + (random.NextDouble() < wrong ? 0.018 * (random.NextDouble() - 0.5) : 0))).ToList();
        var time = DriftFit.Refined(new TakeTime(0.18, 0), tracks, parts);
        Assert.InRange(Math.Abs(time.Drift - drift), 0, 2 * time.Spread);
        Assert.InRange(time.Spread, 1e-6, 15e-6);

        // The middle stays where it was: what is known is where most notes lie.
        var middle = parts.Average(p => p.Notes.Average());
        Assert.Equal(0.18, time.Offset + time.Drift * middle, 1e-4);
    }

    [Fact]
    public void A_few_notes_or_a_better_measure_change_nothing()
    {
        var part = new Part("P", [.. Enumerable.Range(0, 23).Select(n => 0.5 * n)], false);
        var known = new TakeTime(0.1, 5e-6, 1e-9);
        Assert.Same(known, DriftFit.Refined(known, [Heard(0, part, n => 1e-4 * n)], [part]));
        var more = new Part("P", [.. Enumerable.Range(0, 60).Select(n => 0.5 * n)], false);
        Assert.Same(known, DriftFit.Refined(known, [Heard(0, more, n => 1e-4 * n)], [more]));
        Assert.NotEqual(known, DriftFit.Refined(known with { Spread = 0 }, [Heard(0, more, n => 1e-4 * n)], [more]));
        Assert.Same(known, DriftFit.Refined(known, [Identity.None], [part]));
    }

    private static Identity Heard(int part, Part of, Func<double, double> late) =>
        new(part, 1, [.. Enumerable.Range(0, of.Notes.Length)], 0, of.Notes.Length) { Offsets = [.. of.Notes.Select(late)] };

    [Fact]
    public void What_a_hand_plays_together_is_one_beginning()
    {
        // 480 ticks are half a second: 10 ms apart is one, 20 ms apart are two, and so is the one behind it.
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        foreach (var tick in new[] { 480, 490, 960, 979, 989 })
        {
            writer.Hold(1, 36 + tick % 7, 100, tick / 480.0, 0.1);
        }

        var part = Parts.Of(Song.Of(writer.ToFile("Together", 2)), "Hands", _ => true, held: false);
        Assert.Equal([0.5, 1, 1.0198], part.Notes.Select(n => Math.Round(n, 4)));
    }

    [Fact]
    public void What_the_same_keys_play_is_one_sound_in_whatever_order_they_are_hit()
    {
        // A kick, a kick with a hat 4 ms behind it, a hat, the two with the hat first, and the kick again, of another channel at last.
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        foreach (var (tick, channel, key) in new[] { (480, 1, 36), (960, 1, 36), (964, 1, 42), (1440, 1, 42), (1916, 1, 42), (1920, 1, 36), (2400, 1, 36), (2880, 2, 36) })
        {
            writer.Hold(channel, key, 100, tick / 480.0, 0.1);
        }

        var part = Parts.Of(Song.Of(writer.ToFile("Sounds", 2)), "Kit", _ => true, held: false);
        Assert.Equal([0, 1, 2, 1, 0, 3], part.Sounds);
        Assert.Equal(part.Notes.Length, part.Sounds.Length);
    }
}

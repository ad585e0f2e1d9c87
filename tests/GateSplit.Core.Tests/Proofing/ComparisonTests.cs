using System.Globalization;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Two recordings of one thing, made from each other with another tool: offset, drift, gain, polarity and what is left are what was done.</summary>
public sealed class ComparisonTests : IDisposable
{
    private const int Rate = 48000;
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(0, 0, 1)]
    [InlineData(1, -6, 1)]
    [InlineData(12345, 3, -1)]
    [InlineData(96000, -20, 1)]
    public void A_moved_copy_is_found_to_the_sample_and_leaves_nothing(int offset, double gain, int polarity)
    {
        var first = Plucks();
        var second = Sox(first, $"vol {(polarity * Math.Pow(10, gain / 20)).ToString(CultureInfo.InvariantCulture)} pad {offset}s");
        var found = Compare(first, second)!;
        Assert.Equal((offset, 0, polarity), (found.OffsetFrames, found.DriftPpm, found.Polarity));
        Assert.Equal(gain, found.Gain.Value, 0.001);
        Assert.InRange(found.Residual.Value, double.NegativeInfinity, -100);

        // The other way round all signs turn.
        var back = Compare(second, first)!;
        Assert.Equal((-offset, 0, polarity), (back.OffsetFrames, back.DriftPpm, back.Polarity));
        Assert.Equal(-gain, back.Gain.Value, 0.001);
    }

    [Theory]
    [InlineData(200)]
    [InlineData(-137)]
    [InlineData(3)]
    public void A_clock_that_runs_slow_or_fast_is_found_to_one_millionth_over_three_minutes(double ppm)
    {
        var first = Plucks(seconds: 180);
        var second = Sox(first, $"rate -v {Rate} speed {(1 / (1 + ppm / 1e6)).ToString("R", CultureInfo.InvariantCulture)} rate -v {Rate} pad 777s");
        var found = Compare(first, second)!;
        Assert.Equal(ppm, found.DriftPpm, 1.0);
        Assert.Equal(777, found.OffsetFrames, 1.0);
        Assert.InRange(found.Residual.Value, -200, -50);
    }

    [Theory]
    [InlineData(10, true)]
    [InlineData(5, false)]
    [InlineData(0, false)]
    public void Where_less_than_half_lies_together_many_places_must_agree(int together, bool isFound)
    {
        // In every other of 24 stretches up to so many hits lie together, all others are moved by something else each.
        var random = new Random(5);
        var (first, second) = Moved([.. Enumerable.Range(0, 24).Select(stretch => stretch % 2 == 0 && stretch / 2 < together ? 0 : random.Next(-1900, 1900))]);
        var found = Comparison.Of(new Samples(first), new Samples(second));
        Assert.Equal(isFound, found is not null);
        if (found is not null)
        {
            Assert.Equal((0, 0), (found.OffsetFrames, found.DriftPpm));
        }
    }

    [Fact]
    public void What_is_louder_and_a_little_later_does_not_draw_the_line_of_all_windows_with_it()
    {
        // Hits of noise lie on a line; a whistle, which is but one pitch to them, is two frames later and has more of the energy.
        var (hits, _) = Moved(new int[24]);
        var whistle = hits.Select((_, i) => (float)(0.4 * Math.Sin(2 * Math.PI * i / 16.3))).ToArray();
        float[] Sum(float[] one, float[] other) => [.. one.Zip(other, (a, b) => a + b)];
        var found = Comparison.Aligned(new Samples(Sum(hits, whistle)), new Samples(Sum(Drawn.Out(hits, 100, 40), Drawn.Out(whistle, 102, 40))))!.Value;
        Assert.Equal((100, 40), (found.Start, 1e6 * found.Slope), (one, other) => Math.Abs(one.Item1 - other.Item1) < 0.5 && Math.Abs(one.Item2 - other.Item2) < 1);
    }

    [Theory]
    [InlineData(500, -1200, 1500, 520)]
    [InlineData(500, -1200, 520)]
    public void Two_of_several_places_make_no_line(params int[] places)
    {
        var (first, second) = Moved(places);
        Assert.Null(Comparison.Of(new Samples(first), new Samples(second)));
    }

    [Theory]
    [InlineData(500, 500, 500)]
    [InlineData(500, 500)]
    public void Few_places_that_all_agree_make_one(params int[] places)
    {
        var (first, second) = Moved(places);
        Assert.Equal((500, 0), Comparison.Of(new Samples(first), new Samples(second)) is { } found ? (found.OffsetFrames, found.DriftPpm) : default);
    }

    [Fact]
    public void Noise_forty_decibels_down_moves_it_by_less_than_a_sample()
    {
        var first = Plucks();
        var noise = _folder["noise.wav"];
        Programs.Run("sox", "-n", "-R", "-r", $"{Rate}", "-b", "24", noise, "synth", "30", "whitenoise", "gain", "-58");
        var second = _folder["noisy.wav"];
        Programs.Run("sox", "-R", "-m", "-v", "1", Sox(first, "pad 4321s"), "-v", "1", noise, "-b", "24", second);
        var found = Compare(first, second)!;
        Assert.Equal(4321, found.OffsetFrames, 0.5);
        Assert.InRange(found.Residual.Value, -60, -20);
    }

    [Fact]
    public void A_rhythm_that_comes_again_lies_where_the_sounds_are_the_same_and_not_where_it_is_loudest()
    {
        const int Offset = 1234;
        const int Later = 3 * Rate;
        var random = new Random(3);
        float[] Hit() => [.. Enumerable.Range(0, Rate / 10).Select(i => (float)(random.NextDouble() - 0.5) * (float)Math.Exp(-i / 1200.0))];
        var times = Enumerable.Range(0, 60).Select(i => i * Rate / 2 + random.Next(Rate / 3)).ToList();
        var (first, second) = (new float[40 * Rate], new float[40 * Rate]);
        foreach (var at in times)
        {
            var (own, other) = (Hit(), Hit());
            for (var i = 0; i < own.Length; i++)
            {
                first[at + i] += own[i];
                second[at + Offset + i] += 0.4f * own[i];
                second[at + Later + i] += 0.9f * other[i];
            }
        }

        var takes = new SoxTake(_folder.Path);
        using var one = WaveReader.Open(takes.Save("first", first)).Value!;
        using var two = WaveReader.Open(takes.Save("second", second)).Value!;
        var found = Comparison.Of(new MonoReader(one), new MonoReader(two));
        Assert.NotNull(found);
        Assert.Equal(Offset, found.OffsetFrames, 0.1);
        Assert.Equal(0, found.DriftPpm, 0.1);
    }

    [Theory]
    [InlineData(null, null)]
    [InlineData(1234.0, 1234.0)]
    [InlineData(1234.0 + 2500, null)]
    public void Where_most_rises_meet_but_no_sound_does_the_expected_place_is_it(double? expected, double? told)
    {
        var (first, second) = AtTwoPlaces(6, _ => true, 0.6, _ => false, 97000);

        Assert.Equal(told, Comparison.Aligned(new Samples(first), new Samples(second), At(expected)) is { } place ? Math.Round(place.Start, 1) : null);
    }

    [Theory]
    [InlineData(null, 97000)]
    [InlineData(1234.0, 1234)]
    [InlineData(1234.0 + 2300, 1234)]
    [InlineData(1234.0 + 2500, 97000)]
    [InlineData(97000.0, 97000)]
    public void Of_places_at_which_nearly_as_many_windows_fit_the_expected_one_is_it(double? expected, double told)
    {
        // What all was played to comes again two seconds later, where more of it is loud.
        var (first, second) = AtTwoPlaces(5, hit => hit % 3 != 0, 0.6, _ => true, 97000);

        Assert.Equal(told, Comparison.Aligned(new Samples(first), new Samples(second), At(expected))!.Value.Start, 0.1);
    }

    [Theory]
    [InlineData(null, 1234)]
    [InlineData(144000.0, 144000)]
    [InlineData(144000.0 + 2300, 144000)]
    [InlineData(144000.0 + 2500, 1234)]
    [InlineData(1234.0, 1234)]
    public void A_place_that_something_else_tells_is_kept(double? expected, double told)
    {
        // All sounds are there once softly; a third of them again three seconds later, loudly and beside others.
        var (first, second) = AtTwoPlaces(3, _ => true, 0.4, hit => hit % 3 == 0, 3 * Rate);

        Assert.Equal(told, Comparison.Aligned(new Samples(first), new Samples(second), At(expected))!.Value.Start, 0.1);
    }

    [Theory]
    [InlineData(0, 2, 144000)]
    [InlineData(45, 2, 144000)]
    [InlineData(-45, 2, 144000)]
    [InlineData(470, 2, 1234)]
    [InlineData(470, 0, 144000)]
    public void A_place_that_notes_tell_is_kept_only_if_it_runs_as_they_do(double ppm, double spread, double told)
    {
        var (first, second) = AtTwoPlaces(3, _ => true, 0.4, hit => hit % 3 == 0, 3 * Rate);

        Assert.Equal(told, Comparison.Aligned(new Samples(first), new Samples(second), At(144000, ppm, spread))!.Value.Start, 0.1);
    }

    [Theory]
    [InlineData(12, 3, null)]
    [InlineData(12, 4, 1234.0)]
    [InlineData(13, 4, null)]
    [InlineData(13, 5, 1234.0)]
    [InlineData(40, 7, null)]
    [InlineData(40, 8, 1234.0)]
    public void Four_clear_windows_that_are_a_third_of_all_tell_a_place_and_eight_of_any_number(int hits, int agreed, double? told)
    {
        // Hits far apart, each in one of the 48 windows alone and later by an amount of its own, but for some.
        const int Apart = 41000;
        var random = new Random(8);
        var (first, second) = (new float[48 * Apart], new float[48 * Apart]);
        var together = Enumerable.Range(0, agreed).Select(i => i * hits / agreed).ToHashSet();
        for (var hit = 0; hit < hits; hit++)
        {
            float[] own = [.. Enumerable.Range(0, Rate / 200).Select(_ => (float)(random.NextDouble() - 0.5))];
            var at = (hit * (48 / hits) * Apart) + (Apart / 2) + random.Next(-6000, 6000);
            SoxTake.Add(first, own, at, 1);
            SoxTake.Add(second, own, at + 1234 + (together.Contains(hit) ? 0 : random.Next(-2000, 2000)), 1);
        }

        Assert.Equal(told, Comparison.Aligned(new Samples(first), new Samples(second)) is { } place ? Math.Round(place.Start, 1) : null);
    }

    [Theory]
    [InlineData(1234.0, 0, 0)]
    [InlineData(-3000.0, 155, 0)]
    [InlineData(-3000.0, 155, 64)]
    public void Tones_that_fit_at_each_of_their_periods_are_told_by_all_of_them_together(double offset, double ppm, int later)
    {
        // Two bursts of noise, that fit at one place only; one of them may be later by itself.
        var path = _folder["tones.wav"];
        var random = new Random(5);
        var parts = Enumerable.Range(0, 40).Select(_ => string.Create(CultureInfo.InvariantCulture, $"synth 0.7 sawtooth {random.Next(90, 500)} fade q 0.05 0.7 0.2 gain -12"));
        Programs.Run("sox", ["-n", "-R", "-r", $"{Rate}", "-b", "24", "-c", "1", path, .. string.Join(" : ", parts).Split(' ')]);
        using var first = WaveReader.Open(path).Value!;
        var sound = new float[first.Frames.Count];
        new MonoReader(first).Read(0, sound);
        var (here, there) = (sound.ToArray(), sound.ToArray());
        foreach (var (at, by) in new[] { (9.1, 0), (16.3, later) })
        {
            float[] burst = [.. Enumerable.Range(0, Rate / 5).Select(_ => (float)random.NextDouble() - 0.5f)];
            SoxTake.Add(here, burst, (int)(at * Rate), 1);
            SoxTake.Add(there, burst, (int)(at * Rate) + by, 1);
        }

        var takes = new SoxTake(_folder.Path);
        using var one = WaveReader.Open(takes.Save("here", here)).Value!;
        using var second = WaveReader.Open(takes.Save("later", Drawn.Out(there, offset, ppm))).Value!;
        var compared = Comparison.Of(new MonoReader(one), new MonoReader(second));
        Assert.NotNull(compared);
        Assert.Equal((offset, ppm, 1), (Math.Round(compared.OffsetFrames, 1), Math.Round(compared.DriftPpm), compared.Polarity));
    }

    [Theory]
    [InlineData("synth 30 whitenoise gain -12", "synth 30 pinknoise gain -12")]
    [InlineData("synth 30 sine 100 gain -6", "synth 30 whitenoise gain -12")]
    [InlineData("trim 0 10 pad 1", "synth 30 whitenoise gain -120")]
    public void What_has_nothing_in_common_is_not_found(string one, string other)
    {
        string Make(string effects, string name)
        {
            var path = _folder[name];
            Programs.Run("sox", ["-n", "-r", $"{Rate}", "-b", "24", path, .. effects.Split(' ')]);
            return path;
        }

        Assert.Null(Compare(Make(one, "a.wav"), Make(other, "b.wav")));
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(100)]
    public void Nearly_empty_files_have_nothing_in_common(int frames)
    {
        var first = Plucks();
        var short_ = Sox(first, $"trim 0 {frames}s");
        Assert.Null(Compare(first, short_));
        Assert.Null(Compare(short_, first));
    }

    /// <summary>Plucked strings at uneven distances, all of them different.</summary>
    private string Plucks(int seconds = 20)
    {
        var path = _folder["plucks.wav"];
        var random = new Random(3);
        var parts = new List<string>();
        for (var total = 0.0; total < seconds;)
        {
            var length = Math.Round(0.2 + 0.6 * random.NextDouble(), 3);
            total += length;
            parts.Add(string.Create(CultureInfo.InvariantCulture, $"synth {length} pluck {random.Next(60, 900)} gain {-10 - random.Next(10)}"));
        }

        Programs.Run("sox", ["-n", "-R", "-r", $"{Rate}", "-b", "24", "-c", "1", path, .. string.Join(" : ", parts).Split(' ')]);
        return path;
    }

    private string Sox(string path, string effects)
    {
        var made = _folder[$"{Guid.NewGuid():N}.wav"];
        Programs.Run("sox", ["-D", path, "-b", "24", made, .. effects.Split(' ')]);
        return made;
    }

    [Theory]
    [InlineData(5, true)] // two places, as a filter makes of one
    [InlineData(7, false)]
    public void Where_each_window_has_two_places_they_are_one_only_if_they_lie_close_together(int beside, bool told)
    {
        var (first, _) = Moved(new int[24]);
        var second = new float[first.Length];
        SoxTake.Add(second, first, 500 - beside, 0.5);
        SoxTake.Add(second, first, 500 + beside, 0.5);
        var found = Comparison.Aligned(new Samples(first), new Samples(second));
        Assert.Equal(told, found is not null);
        Assert.Equal(500, found?.Start ?? 500, beside + 0.1);
    }

    private static Comparison? Compare(string first, string second)
    {
        using var one = WaveReader.Open(first).Value!;
        using var other = WaveReader.Open(second).Value!;
        return Comparison.Of(new MonoReader(one), new MonoReader(other));
    }

    /// <summary>One hit in each of several stretches, and the same hits moved by so many frames.</summary>
    private static (float[] First, float[] Second) Moved(int[] by)
    {
        const int Stretch = 3 << 13;
        var random = new Random(5);
        var (first, second) = (new float[by.Length * Stretch], new float[by.Length * Stretch]);
        for (var stretch = 0; stretch < by.Length; stretch++)
        {
            var hit = Enumerable.Range(0, 6000).Select(i => (float)(0.4 * Math.Pow(0.999, i) * ((2 * random.NextDouble()) - 1))).ToArray();
            SoxTake.Add(first, hit, (stretch * Stretch) + 9000, 1);
            SoxTake.Add(second, hit, (stretch * Stretch) + 9000 + by[stretch], 1);
        }

        return (first, second);
    }

    /// <summary>Hits, and the same or others as many, softly at one place and loudly at another.</summary>
    /// <summary>Where notes tell that a take lies, with the drift and by how many millionths they may be wrong about it; 0 where they do not tell it.</summary>
    private static TakeTime? At(double? frames, double ppm = 0, double spread = 2) => frames is { } at ? new(at / Rate, ppm * 1e-6, spread * 1e-6) : null;

    private static (float[] First, float[] Second) AtTwoPlaces(int seed, Func<int, bool> isSoft, double soft, Func<int, bool> isLoud, int loudAt)
    {
        var random = new Random(seed);
        float[] Hit() => [.. Enumerable.Range(0, Rate / 10).Select(i => (float)(random.NextDouble() - 0.5) * (float)Math.Exp(-i / 1200.0))];
        var (first, second) = (new float[40 * Rate], new float[40 * Rate]);
        for (var hit = 0; hit < 60; hit++)
        {
            var (at, own) = ((hit * Rate / 2) + random.Next(Rate / 3), Hit());
            SoxTake.Add(first, own, at, 1);
            SoxTake.Add(second, isSoft(hit) ? own : Hit(), at + 1234, soft);
            SoxTake.Add(second, isLoud(hit) ? own : Hit(), at + loudAt, 0.9);
        }

        return (first, second);
    }
}

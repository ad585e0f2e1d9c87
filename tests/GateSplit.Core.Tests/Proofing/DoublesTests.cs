using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>A copy is told from another microphone that hears the same, whatever has become of either file.</summary>
public sealed class DoublesTests
{
    private const int Rate = 48000;
    private const int Length = 12 * Rate;
    private static readonly double[] Times = [.. Enumerable.Range(0, 20).Select(i => 0.5 + 0.55 * i)];

    [Theory]
    [InlineData(0, 0.5, 0.0)]
    [InlineData(137, 1.0, 0.001)]
    [InlineData(-1500, 0.25, 0.0001)]
    public void A_copy_is_told_with_lag_and_gain(int lag, double gain, double noise)
    {
        var sound = Struck(1);
        var found = Of(Noisy(sound, noise, 2), Noisy(Later(sound, lag, gain), noise, 3));
        Assert.Equal(lag, found!.LagFrames, 0.02);
        Assert.Equal(20 * Math.Log10(gain), found.Gain.Value, 0.1);
        Assert.Equal((1, 1), (found.File, found.Polarity));
    }

    [Theory]
    [InlineData(0.06, false, true)] // a fifth of the energy of each is hiss
    [InlineData(0.06, true, false)] // two microphones may differ where it hides them
    [InlineData(0.16, false, false)] // more than half: nobody can tell
    public void A_copy_in_loud_hiss_is_told_with_its_gain(double hiss, bool partners, bool told)
    {
        var bursts = Bursts(0.3, 5);
        var found = Of(Noisy(bursts, hiss, 2), Noisy(Later(bursts, 700, 0.9), 0.9 * hiss, 3), partners: partners);
        Assert.Equal(told, found is not null);
        Assert.Equal(20 * Math.Log10(0.9), found?.Gain.Value ?? 20 * Math.Log10(0.9), 0.4);
    }

    [Theory]
    [InlineData(0, true)]
    [InlineData(0.04, false)]
    public void What_drones_on_in_each_of_two_files_is_no_hiss_in_what_bleeds_into_both(double level, bool copy)
    {
        // A chord that never stops, another in each file, and a third of the energy of what they share.
        var bursts = Bursts(0.3, 5);
        float[] With(params double[] tones) => [.. bursts.Select((b, i) => b + (float)(level * tones.Sum(t => Math.Sin(2 * Math.PI * t * i / Rate))))];
        Assert.Equal(copy, Of(Noisy(With(210, 277, 330), 1e-6, 2), Noisy(With(233, 294, 392), 1e-6, 3)) is not null);
    }

    [Theory]
    [InlineData(2390)]
    [InlineData(-2390)]
    public void A_copy_of_short_clicks_that_lies_far_off_is_told(int lag)
    {
        var random = new Random(5);
        var clicks = new float[Length];
        foreach (var start in Times.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < 200; i++)
            {
                clicks[start + i] = (float)(0.8 * Math.Exp(-i / 40.0) * ((2 * random.NextDouble()) - 1));
            }
        }

        ImmutableArray<Onset> Onsets(int later) => [.. Times.Select(t => new Onset(t + ((double)later / Rate), 0.5))];
        var pairs = Doubles.Of([new Samples(clicks), new Samples(Later(clicks, lag, 0.5))], [Onsets(0), Onsets(lag)], [false, false], (_, _) => false, TestContext.Current.CancellationToken);
        Assert.Equal(lag, Assert.Single(pairs).Other.LagFrames, 0.02);
    }

    [Theory]
    [InlineData(0.01)]
    [InlineData(0.05)]
    [InlineData(0.06)]
    public void A_clean_copy_of_what_hisses_is_a_copy(double hiss) => Assert.Equal(0, Of(Noisy(Struck(1), hiss, 2), Struck(1))!.LagFrames, 0.05);

    [Fact]
    public void A_copy_of_what_is_dark_is_a_copy_though_holes_in_it_are_the_brightest_there_is()
    {
        var sound = new float[Length];
        foreach (var start in Times.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < 12000; i++)
            {
                sound[start + i] = (float)(0.5 * Math.Exp(-i / 3000.0) * Math.Sin(2 * Math.PI * 70 * i / Rate));
            }
        }

        var copy = Later(sound, 1675, 1);
        foreach (var hole in new[] { 3, 11 })
        {
            copy.AsSpan((int)(Times[hole] * Rate) + 1675 + 200, 300).Clear();
        }

        Assert.Equal(1675, Of(Noisy(sound, 1e-6, 2), Noisy(copy, 1e-6, 3))!.LagFrames, 0.1);
    }

    [Fact]
    public void A_copy_upside_down_with_a_hole_and_a_click_is_a_copy()
    {
        var sound = Struck(1);
        var copy = Later(sound, 40, -1);
        copy.AsSpan((int)(Times[3] * Rate), 3000).Clear();
        copy[(int)(Times[7] * Rate) + 4000] += 0.5f;
        var found = Of(sound, copy);
        Assert.Equal((40.0, -1), (Math.Round(found!.LagFrames, 2), found.Polarity));
    }

    [Fact]
    public void A_copy_of_what_breaks_off_is_told_by_what_is_there() =>
        Assert.Equal(0, Of(Struck(1), Struck(1)[..(int)(Times[9] * Rate)])!.LagFrames, 0.01);

    [Fact]
    public void A_copy_of_one_hit_at_the_very_start_is_told()
    {
        var hit = Struck(1)[(int)(Times[0] * Rate)..(int)(Times[1] * Rate)];
        var pairs = Doubles.Of([new Samples(hit), new Samples([.. hit])], [[new Onset(0, 0.5)], [new Onset(0, 0.5)]], [false, false], (_, _) => false, TestContext.Current.CancellationToken);
        Assert.Equal((0, 1), Assert.Single(pairs) is var (one, other) ? (one, other.File) : default);
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void A_copy_that_clips_is_told_where_it_does_not(bool first)
    {
        var (sound, clips) = (Struck(1), Clipped(Struck(1)));
        var found = first ? Of(clips, sound, 0) : Of(sound, clips, 1);
        Assert.Equal(0, found!.LagFrames, 0.001);
    }

    [Fact]
    public void A_copy_that_clips_at_nearly_all_is_told_by_the_few_soft_hits_and_not_by_noise()
    {
        // What is soft enough not to clip is two hits and a lot of nothing.
        var sound = Struck(1, decay: 200);
        for (var hit = 0; hit < Times.Length; hit++)
        {
            sound.AsSpan((int)(Times[hit] * Rate), hit is 5 or 13 || Level(hit) > 0.5 ? 0 : 16000).Clear();
        }

        Assert.Equal(300, Of(Noisy(sound, 0.0005, 2), Clipped(Noisy(Later(sound, 300, 1), 0.0005, 3)), 1)!.LagFrames, 0.05);
    }

    [Fact]
    public void A_copy_of_what_never_falls_silent_is_a_copy()
    {
        // A drone is twice as loud at each hit as between them: where it is quietest, it is no noise.
        var sound = Struck(1);
        for (var i = 0; i < Length; i++)
        {
            var around = ((double)i / Rate - Times[0] - 0.075) / 0.55;
            sound[i] += (float)(0.1 * (1.5 + (0.5 * Math.Cos(2 * Math.PI * around))) * Math.Sin(2 * Math.PI * 250 * i / Rate));
        }

        var found = Of(sound, Later(sound, 200, 0.5));
        Assert.Equal(200, found!.LagFrames, 0.001);
        Assert.Equal(-6.02, found.Gain.Value, 0.05);
    }

    [Fact]
    public void A_copy_that_clips_at_all_hits_is_not_judged_by_the_noise_between_them()
    {
        var sound = Struck(1, decay: 200, level: 0.6);
        Array.ForEach(Times, t => sound.AsSpan((int)(t * Rate) + 4000, 12000).Clear());
        Assert.Equal(300, Of(Noisy(sound, 0.0005, 2), Clipped(Noisy(Later(sound, 300, 1), 0.0005, 3)), 1)!.LagFrames, 0.05);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(0.2)]
    [InlineData(-0.5)]
    public void A_copy_between_samples_of_a_tone_far_louder_than_all_above_it_is_a_copy(double between)
    {
        // Sines of which the value between samples is known: what the low one spills over the others where a window is cut goes with neither.
        var random = new Random(4);
        List<(double Hertz, double Level, double Phase)> sines = [(100.3, 0.4, 0), .. Enumerable.Range(0, 60).Select(_ => (6000 + (12000 * random.NextDouble()), 0.0004, 6.28 * random.NextDouble()))];
        float[] At(double later) => [.. Enumerable.Range(0, Length).Select(i => (float)sines.Sum(s => s.Level * Math.Sin((2 * Math.PI * s.Hertz * (i - later) / Rate) + s.Phase)))];
        Assert.Equal(between, Of(Noisy(At(0), 1e-5, 2), Noisy(At(between), 1e-5, 3))!.LagFrames, 0.02);
    }

    [Theory]
    [InlineData(0.3)]
    [InlineData(-0.5)]
    public void A_copy_between_samples_of_what_is_bright_is_a_copy(double between)
    {
        // Sines up to 22 kHz, of which the value between samples is known: half a sample away not two thirds go together.
        var random = new Random(4);
        List<(double Hertz, double Phase)> sines = [.. Enumerable.Range(0, 60).Select(_ => (1000 + (21000 * random.NextDouble()), 6.28 * random.NextDouble()))];
        float[] At(double later) => [.. Enumerable.Range(0, Length).Select(i => (float)sines.Sum(s => 0.02 * Math.Sin((2 * Math.PI * s.Hertz * (i - later) / Rate) + s.Phase)))];
        var copy = Of(Noisy(At(0), 1e-4, 2), Noisy(At(between), 1e-4, 3))!;
        Assert.Equal(between, copy.LagFrames, 0.02);
        Assert.Equal(0, copy.Gain.Value, 0.2);
    }

    [Fact]
    public void A_copy_of_what_swells_is_told_where_no_beginning_is_heard()
    {
        // Two seconds of nothing but noise, then what has no beginning; the noise is all that begins.
        var random = new Random(6);
        var low = 0.0;
        float[] sound = [.. Enumerable.Range(0, Length).Select(i => (float)(i < 2 * Rate ? 0 : (low += 0.02 * ((2 * random.NextDouble()) - 1 - low)) * Math.Min(1, (i - (2.0 * Rate)) / Rate)))];
        var pairs = Doubles.Of([new Samples(Noisy(sound, 0.001, 2)), new Samples(Noisy(Later(sound, 500, 1), 0.001, 3))], [[new Onset(0, 0.001)], [new Onset(0, 0.001)]], [false, false], (_, _) => false, TestContext.Current.CancellationToken);
        Assert.Equal(500, Assert.Single(pairs).Other.LagFrames, 0.3);
    }

    [Theory]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    [InlineData(6)]
    public void A_copy_of_a_low_tone_in_noise_is_told_at_its_top_where_phases_tell_nothing(int seed)
    {
        // A tone of 55 Hz alone, which swells over 20 ms: there is nothing above it but noise, which is another in each file.
        var sound = new float[Length];
        foreach (var start in Times.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < 16000; i++)
            {
                sound[start + i] = (float)(0.6 * Math.Min(1, i / 960.0) * Math.Exp(-i / 2500.0) * Math.Sin(2 * Math.PI * 55 * i / Rate));
            }
        }

        Assert.Equal(505, Of(Noisy(sound, 0.001, 2), Noisy(Later(sound, 505, 1), 0.001, seed))!.LagFrames, 0.5);
    }

    [Fact]
    public void A_copy_is_not_denied_by_an_octave_that_half_of_its_sounds_have_and_the_others_leave_to_noise()
    {
        // The first ten hits have a top, the others are a low tone; five of the ten places that are looked at have it.
        var (sound, random) = (new float[Length], new Random(8));
        for (var hit = 0; hit < Times.Length; hit++)
        {
            for (var i = 0; i < 16000; i++)
            {
                var top = (2 * random.NextDouble()) - 1;
                sound[(int)(Times[hit] * Rate) + i] = (float)(Math.Exp(-i / 3000.0) * ((0.5 * Math.Sin(2 * Math.PI * 90 * i / Rate)) + (hit < 10 ? 0.1 * top : 0)));
            }
        }

        ImmutableArray<Onset> At(params int[] hits) => [.. hits.Select(h => new Onset(Times[h], 0.5))];
        var pairs = Doubles.Of(
            [new Samples(Noisy(sound, 0.001, 2)), new Samples(Noisy(sound, 0.001, 3))], [At(0, 2, 4, 11, 13), At(5, 7, 12, 14, 16)], [false, false], (_, _) => false, TestContext.Current.CancellationToken);
        Assert.Equal(0, Assert.Single(pairs).Other.LagFrames, 0.5);
    }

    [Theory]
    [InlineData(0.0115, true)]
    [InlineData(0.002, true)]
    [InlineData(0.002, false)]
    public void Noise_over_low_tones_makes_no_two_sounds_of_a_copy_and_what_is_over_them_in_one_file_does(double noise, bool copy)
    {
        // Tones below 200 Hz; in the other file, a tenth as strong, hiss that sounds with them and is no noise.
        var (low, hiss) = Swelling(0.05 / Math.Sqrt(Lows.Length), 0.02, 9);
        var other = Noisy([.. low.Zip(hiss, (l, h) => copy ? l : l + h)], noise, 3);
        Assert.Equal(copy, Of(Noisy(low, noise, 2), other) is not null);
    }

    [Theory]
    [InlineData(0.0, false)]
    [InlineData(0.001, false)]
    [InlineData(0.0, true)]
    public void Another_microphone_that_hears_less_of_the_top_is_no_copy(double noise, bool clips)
    {
        var sound = Struck(1);
        var other = Later(Duller(sound), 300, 1);
        Assert.Null(clips ? Of(sound, Clipped(other), 1) : Of(Noisy(sound, noise, 2), Noisy(other, noise, 3)));
    }

    [Theory]
    [InlineData(1.0, true)]
    [InlineData(0.7, false)]
    public void Another_microphone_is_told_by_its_top_where_that_sounds_if_noise_hides_it_at_the_strongest_beginnings(double top, bool copy)
    {
        Assert.Equal(copy, Of(Noisy(Rattling(1), 0.004, 2), Noisy(Later(Rattling(top), 434, 1), 0.004, 3)) is not null);
        Assert.Equal(copy, Of(Noisy(Rattling(top), 0.004, 2), Noisy(Later(Rattling(1), -434, 1), 0.004, 3)) is not null);
    }

    [Theory]
    [InlineData(0.9, false, true)]
    [InlineData(0.9, true, false)]
    [InlineData(1.0, true, true)]
    public void Of_files_that_the_same_notes_play_a_little_less_in_one_octave_makes_another_microphone(double hiss, bool partners, bool copy)
    {
        // 0.9 dB less of the hiss over low tones, and noise far below it.
        var (low, over) = Swelling(0.1, 0.02, 5);
        float[] Heard(double top) => [.. low.Zip(over, (l, h) => l + ((float)top * h))];
        Assert.Equal(copy, Of(Noisy(Heard(1), 1e-4, 2), Noisy(Later(Heard(hiss), 300, 1), 1e-4, 3), partners: partners) is not null);
    }

    [Theory]
    [InlineData(1.0, true)]
    [InlineData(0.7, false)]
    public void Another_microphone_that_clips_is_told_by_its_top_where_it_does_not(double top, bool copy)
    {
        // Its hits clip, and the rattle between them does not.
        Assert.Equal(copy, Of(Noisy(Rattling(1), 0.004, 2), Clipped(Noisy(Later(Rattling(top), 434, 1), 0.004, 3)), 1) is not null);
        Assert.Equal(copy, Of(Clipped(Noisy(Rattling(top), 0.004, 2)), Noisy(Later(Rattling(1), -434, 1), 0.004, 3), 0) is not null);
    }

    [Theory]
    [InlineData(0.33, true)]
    [InlineData(2.5, false)]
    public void What_bleeds_alike_into_two_files_where_one_does_not_clip_makes_no_copy_of_it(double hat, bool copy)
    {
        // Drums that clip in one file and are a third as loud in the other, and between them hats, as loud as they or far louder there.
        var (drums, hats, random) = (Struck(1, decay: 1000, level: 0.6), new float[Length], new Random(5));
        foreach (var start in Times.Select(t => (int)((t + 0.22) * Rate)))
        {
            for (var i = 0; i < 3000; i++)
            {
                hats[start + i] = (float)(0.02 * Math.Exp(-i / 800.0) * ((2 * random.NextDouble()) - 1));
            }
        }

        var clips = Clipped([.. drums.Zip(hats, (d, h) => d + h)]);
        float[] other = [.. drums.Zip(hats, (d, h) => (float)(3 * ((0.33 * d) + (hat * h))))];
        Assert.Equal(copy, Of(Noisy(clips, 1e-5, 2), Noisy(other, 1e-5, 3), clips: 0) is not null);
        Assert.Equal(copy, Of(Noisy(other, 1e-5, 2), Noisy(clips, 1e-5, 3), clips: 1) is not null);
    }

    [Theory]
    [InlineData(300)]
    [InlineData(-1100)]
    public void A_copy_of_one_low_tone_that_swells_is_told_where_it_lies_and_not_periods_away(int lag)
    {
        // It swells behind the windows that are looked at, so that some periods later it is louder; 20 dB below the tone, hiss.
        var (sound, random) = (new float[Length], new Random(7));
        foreach (var start in Times.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < 16000; i++)
            {
                sound[start + i] = (float)(Math.Sin(Math.PI * i / 16000) * ((0.5 * Math.Sin(2 * Math.PI * 90 * i / Rate)) + (0.05 * ((2 * random.NextDouble()) - 1))));
            }
        }

        Assert.Equal(lag, Of(Noisy(sound, 1e-6, 2), Noisy(Later(sound, lag, 1), 1e-6, 3))!.LagFrames, 0.1);
    }

    [Theory]
    [InlineData(1, true)]
    [InlineData(1.4, false)]
    public void Another_microphone_that_is_louder_where_hardly_anything_is_heard_is_no_copy(double louder, bool copy)
    {
        // Low tones, and above them hiss that is a hundred times softer than they are, and far louder than the noise of the files.
        var (low, hiss) = Swelling(0.2, 0.004, 5);
        float[] Heard(double top) => [.. low.Zip(hiss, (l, h) => l + ((float)top * h))];
        Assert.Equal(copy, Of(Noisy(Heard(1), 1e-6, 2), Noisy(Later(Heard(louder), 300, 1), 1e-6, 3)) is not null);
    }

    [Theory]
    [InlineData(5, true)]
    [InlineData(6, false)]
    public void Another_sound_over_the_same_low_tones_that_is_more_than_noise_makes_no_copy(int seed, bool copy)
    {
        // Hiss that sounds with the tones, less than a hundredth of their energy, and some ten times the noise of the files.
        var ((low, hiss), (_, other)) = (Swelling(0.02, 0.004, 5), Swelling(0.02, 0.004, seed));
        float[] With(float[] over, int noise) => Noisy([.. low.Zip(over, (l, h) => l + h)], 0.001, noise);
        Assert.Equal(copy, Of(With(hiss, 2), With(other, 3)) is not null);
    }

    [Theory]
    [InlineData(3)]
    [InlineData(4)]
    public void A_copy_three_times_as_loud_in_noise_is_not_denied_by_what_is_nothing_but_noise(int seed)
    {
        // A tone of 70 Hz in so much noise that each octave above it has a thousandth of the energy or more, which is another in each file.
        var sound = new float[Length];
        foreach (var start in Times.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < 24000; i++)
            {
                sound[start + i] = (float)(0.15 * Math.Exp(-i / 8000.0) * Math.Sin(2 * Math.PI * 70 * i / Rate));
            }
        }

        Assert.Equal(3, Of(Noisy(sound, 0.02, 2), [.. Noisy(Later(sound, 505, 1), 0.02, seed).Select(s => 3 * s)])!.Gain.Ratio, 0.1);
    }

    [Theory]
    [InlineData(0.003, 0, false)]
    [InlineData(0.003, 3.5, false)]
    [InlineData(0, 0, true)]
    [InlineData(0, 3.5, true)]
    public void Soft_sounds_of_its_own_over_what_rings_on_loudly_are_no_copy(double soft, double lag, bool copy)
    {
        // A low tone is all that is heard of it at its strongest beginnings, and ten times as loud as its ticks when these begin; hiss is another in each.
        float[] Tone(double later)
        {
            var sound = new float[Length];
            foreach (var start in Times.Select(t => t * Rate))
            {
                for (var i = (int)Math.Ceiling(start + later); i < start + 16000; i++)
                {
                    sound[i] += (float)(0.5 * Math.Exp(-(i - start - later) / 6000) * Math.Sin(2 * Math.PI * 90 * (i - start - later) / Rate));
                }
            }

            return sound;
        }

        var (other, random) = (Tone(lag).Select(s => -0.4f * s).ToArray(), new Random(4));
        ImmutableArray<Onset> ticks = [.. Times.Select(t => new Onset(t + 0.17, 0.01))];
        foreach (var start in ticks.Select(t => (int)(t.Seconds * Rate)))
        {
            for (var i = 0; i < 1500; i++)
            {
                other[start + i] += (float)(soft * ((2 * random.NextDouble()) - 1));
            }
        }

        ImmutableArray<Onset> onsets = [.. Times.Select((t, i) => new Onset(t, Level(i)))];
        var pairs = Doubles.Of(
            [new Samples(Noisy(Tone(0), 1e-5, 2)), new Samples(Noisy(other, 1e-5, 3))], [onsets, [.. onsets, .. ticks]], [false, false], (_, _) => false, TestContext.Current.CancellationToken);
        Assert.Equal(copy, pairs.Count > 0);
    }

    [Fact]
    public void A_copy_between_samples_has_nothing_of_its_own_where_a_beginning_is_heard_in_one_file_alone()
    {
        // Sines up to 19 kHz, told of any time.
        float[] Bright(double later)
        {
            var random = new Random(5);
            var pitches = Enumerable.Range(0, 60).Select(_ => 200 + (18800 * random.NextDouble())).ToArray();
            var sound = new float[Length];
            foreach (var start in Times.Select(t => t * Rate))
            {
                for (var i = (int)Math.Ceiling(start + later); i < start + 12000; i++)
                {
                    var at = i - start - later;
                    sound[i] += (float)(0.02 * Math.Exp(-at / 6000) * Math.Min(1, at / 200) * pitches.Sum(p => Math.Sin(2 * Math.PI * p * at / Rate)));
                }
            }

            return sound;
        }

        ImmutableArray<Onset> onsets = [.. Times.Select((t, i) => new Onset(t, Level(i)))];
        var pairs = Doubles.Of(
            [new Samples(Noisy(Bright(0), 1e-5, 2)), new Samples(Noisy(Bright(7.5), 1e-5, 3))], [onsets, [.. onsets, .. Times.Select(t => new Onset(t + 0.08, 0.1))]], [false, false], (_, _) => false, TestContext.Current.CancellationToken);
        Assert.Equal(7.5, Assert.Single(pairs).Other.LagFrames, 0.05);
    }

    [Theory]
    [InlineData(0.01, 1)]
    [InlineData(0.001, 1)]
    [InlineData(0.001, 4)]
    public void Noise_in_which_something_seems_to_begin_is_nothing_of_its_own(double noise, int faster)
    {
        // The noise of each is another, and between the hits there is nothing else; so few of its bins lie in a low octave, and the fewer the higher
        // the rate, that they may well be loud.
        ImmutableArray<Onset> onsets = [.. Times.Select((t, i) => new Onset(t / faster, Level(i)))];
        Samples Heard(int seed) => new(Noisy(Struck(1), noise, seed), faster * Rate);
        for (var seed = 10; seed < 60; seed += 2)
        {
            var random = new Random(seed);
            Onset[] between = [.. Times.Select(t => new Onset((t - 0.06 - (0.1 * random.NextDouble())) / faster, 0.01))];
            var pairs = Doubles.Of([Heard(seed), Heard(seed + 1)], [onsets, [.. onsets.Concat(between).OrderBy(o => o.Seconds)]], [false, false], (_, _) => false, TestContext.Current.CancellationToken);
            Assert.Single(pairs);
        }
    }

    [Fact]
    public void Another_take_of_the_same_notes_is_no_copy() => Assert.Null(Of(Struck(1), Struck(9)));

    [Fact]
    public void Where_little_but_the_lows_is_heard_over_noise_a_copy_lies_where_these_tell()
    {
        // At the few hits that are compared, noise goes together by chance at some of its many frequencies.
        var (sound, random) = (new float[Length], new Random(1));
        for (var hit = 0; hit < Times.Length; hit++)
        {
            for (var i = 0; i < 12000; i++)
            {
                var hiss = 0.02 * Math.Exp(-i / 500.0) * ((2 * random.NextDouble()) - 1);
                sound[(int)(Times[hit] * Rate) + i] = (float)(Level(hit) * ((Math.Exp(-i / 3000.0) * Math.Sin(2 * Math.PI * Lows[hit % Lows.Length] * i / Rate)) + hiss));
            }
        }

        Assert.All([2, 8, 10, 12, 18, 20, 22, 24, 28, 30, 40], seed => Assert.Equal(1252, Of(Noisy(sound, 0.02, seed), Noisy(Later(sound, 1252, 1), 0.02, seed + 1))!.LagFrames, 0.15));
    }

    private static DoubleOf? Of(float[] one, float[] other, int clips = -1, bool partners = false)
    {
        ImmutableArray<Onset> onsets = [.. Times.Select((t, i) => new Onset(t, Level(i)))];
        var pairs = Doubles.Of([new Samples(one), new Samples(other)], [onsets, onsets], [clips == 0, clips == 1], (_, _) => partners, TestContext.Current.CancellationToken);
        return pairs.Count == 0 ? null : Assert.Single(pairs).Other;
    }

    private static readonly double[] Lows = [51, 67, 83, 109, 131, 173];

    private static double Level(int hit) => hit % 2 == 0 ? 0.6 : 0.15;

    /// <summary>Hits of low tones and noise that die away, loud and soft in turn.</summary>
    private static float[] Struck(int seed, double decay = 3000, double? level = null)
    {
        var (sound, random) = (new float[Length], new Random(seed));
        for (var hit = 0; hit < Times.Length; hit++)
        {
            for (var i = 0; i < 16000; i++)
            {
                var noise = 2 * random.NextDouble() - 1;
                sound[(int)(Times[hit] * Rate) + i] += (float)((level ?? Level(hit)) * Math.Exp(-i / decay) * (0.7 * Math.Sin(2 * Math.PI * 90 * i / Rate) + 0.3 * noise));
            }
        }

        return sound;
    }

    /// <summary>Short bursts of noise.</summary>
    private static float[] Bursts(double level, int seed)
    {
        var (sound, random) = (new float[Length], new Random(seed));
        foreach (var start in Times.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < 16000; i++)
            {
                sound[start + i] = (float)(level * Math.Exp(-i / 3000.0) * ((2 * random.NextDouble()) - 1));
            }
        }

        return sound;
    }

    /// <summary>A low drum, and at every other of its hits a soft rattle.</summary>
    private static float[] Rattling(double level)
    {
        var (sound, random) = (new float[Length], new Random(6));
        for (var hit = 0; hit < Times.Length; hit++)
        {
            for (var i = 0; i < 12000; i++)
            {
                var rattle = 0.06 * (hit % 2) * level * ((2 * random.NextDouble()) - 1);
                sound[(int)(Times[hit] * Rate) + i] = (float)(Math.Exp(-i / 3000.0) * ((Level(hit) * Math.Sin(2 * Math.PI * 90 * i / Rate)) + rattle));
            }
        }

        return sound;
    }

    /// <summary>Low tones, and hiss that swells and dies away with them.</summary>
    private static (float[] Low, float[] Hiss) Swelling(double tone, double level, int seed)
    {
        var (low, hiss, random) = (new float[Length], new float[Length], new Random(seed));
        foreach (var start in Times.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < 16000; i++)
            {
                var swell = Math.Sin(Math.PI * i / 16000);
                low[start + i] = (float)(tone * swell * Lows.Sum(p => Math.Sin((2 * Math.PI * p * i / Rate) + p)));
                hiss[start + i] = (float)(level * swell * ((2 * random.NextDouble()) - 1));
            }
        }

        return (low, hiss);
    }

    private static float[] Later(float[] sound, int frames, double gain) =>
        [.. Enumerable.Range(0, sound.Length).Select(i => i - frames >= 0 && i - frames < sound.Length ? (float)(gain * sound[i - frames]) : 0)];

    private static float[] Noisy(float[] sound, double noise, int seed)
    {
        var random = new Random(seed);
        return [.. sound.Select(s => (float)(s + noise * (2 * random.NextDouble() - 1)))];
    }

    private static float[] Clipped(float[] sound) => [.. sound.Select(s => Math.Clamp(3 * s, -1, 1))];

    /// <summary>A mild low-pass: 3 dB less at 12 kHz, without a delay where it is low.</summary>
    private static float[] Duller(float[] sound) =>
        [.. Enumerable.Range(0, sound.Length).Select(i => i == 0 || i == sound.Length - 1 ? sound[i] : 0.7f * sound[i] + 0.15f * (sound[i - 1] + sound[i + 1]))];
}

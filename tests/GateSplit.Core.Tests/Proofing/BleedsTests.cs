using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>What a file holds of another's element, on bursts of noise of which it is known.</summary>
public sealed class BleedsTests
{
    private const int Rate = 48000;
    private const double Seconds = 40;
    private static readonly double[] RingingHits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
    private readonly Random _random = new(7);

    [Fact]
    public void A_hit_into_which_much_rings_makes_no_bleed_louder()
    {
        // Two hits follow silence; into the third a roll rings on, which is not asked since another plays with it.
        double[] roll = [7.6, 7.7, 7.8];
        var own = Bursts([2, 5, .. roll, 8], ring: 0.8);
        var bleed = Assert.Single(Told(own, Scaled(own, 0.1f), [2, 5, .. roll, 8], roll, held: false));
        Assert.Equal(-20, bleed.Level.Value, 0.5);
    }

    [Theory]
    [InlineData(0.1, 1)]
    [InlineData(1.0, 0)]
    public void Of_what_begins_at_the_same_places_only_what_is_about_as_loud_at_each_is_bleed(double spread, int told)
    {
        // Another noise, as what a far microphone hears may be: at a tenth of each hit, more or less.
        double[] hits = [.. Enumerable.Range(1, 7).Select(i => 5.0 * i)];
        var (own, other) = (Bursts(hits, ring: 0.02), Bursts(hits, ring: 0.02));
        double[] louder = [-1, 1, -0.6, 0.8, -0.9, 0.5, 0.05];
        foreach (var (i, hit) in hits.Index())
        {
            var part = other.AsSpan((int)(hit * Rate), Rate);
            for (var at = 0; at < part.Length; at++)
            {
                part[at] *= (float)(0.1 * Math.Pow(2, spread * louder[i]));
            }
        }

        var bleeds = Told(own, other, hits, [], held: false);
        Assert.Equal(told, bleeds.Length);
        Assert.All(bleeds, b => Assert.Equal(-20, b.Level.Value, 1.0));
    }

    [Theory]
    [InlineData(1)]
    [InlineData(10)]
    public void Of_two_sounds_of_one_element_the_louder_counts_more_and_what_begins_beside_one_hit_not_at_all(float beside)
    {
        // Eight soft hits bleed at a tenth and four loud ones at less: by their energies at (8 * 0.1^2 + 4 * 3.5^2 * 0.07^2) / (8 + 4 * 3.5^2), which is -22.5 dB.
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        var own = Bursts(hits, ring: 0.02);
        var other = Scaled(own, 0.1f);
        foreach (var hit in hits.Take(4).Select(h => (int)(h * Rate)))
        {
            Times(own, hit, 3.5f);
            Times(other, hit, 3.5f * 0.7f);
        }

        Times(other, (int)(hits[^1] * Rate), beside);
        Assert.Equal(-22.5, Assert.Single(Told(own, other, hits, [], held: false)).Level.Value, 0.3);

        static void Times(float[] sound, int at, float by) => Scaled(sound[at..(at + Rate)], by).CopyTo(sound, at);
    }

    [Theory]
    [InlineData(0.05, 4, false)] // 0.3 dB either way
    [InlineData(0.2, 4, true)] // 1.2 dB: the mean of four may be wrong by half of it
    [InlineData(0.2, 20, false)] // that of twenty by less
    public void A_level_is_told_as_exact_only_where_hits_tell_it_well_enough(double spread, int count, bool about)
    {
        double[] hits = [.. Enumerable.Range(1, count).Select(i => (Seconds - 2) / count * i)];
        var own = Bursts(hits, ring: 0.02);
        var other = Scaled(own, 0.1f);
        foreach (var (i, hit) in hits.Index())
        {
            var part = other.AsSpan((int)(hit * Rate), Rate);
            for (var at = 0; at < part.Length; at++)
            {
                part[at] *= (float)Math.Pow(2, spread * (i % 2 == 0 ? 1 : -1));
            }
        }

        var bleed = Assert.Single(Told(own, other, hits, [], held: false));
        Assert.Equal(about, bleed.About);
        Assert.Equal(-20, bleed.Level.Value, 0.5);
    }

    [Theory]
    [InlineData(0.1, 0, false, false)]
    [InlineData(0.08, 0, false, true)] // one of two sounds bleeds 2 dB less
    [InlineData(0.08, 0, true, false)] // of what is held all pitches are one
    [InlineData(0.1, 1, false, false)]
    [InlineData(0.1, 3, false, true)] // a third sound is never played alone
    public void A_level_of_an_element_of_two_sounds_is_exact_where_nearly_all_of_them_tell_it(double second, int hidden, bool held, bool about)
    {
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 2.5 * i)], beside = [.. Enumerable.Range(0, hidden).Select(i => 32.0 + i)];
        var (own, other) = (new float[(int)(Seconds * Rate)], new float[(int)(Seconds * Rate)]);
        foreach (var (i, hit) in hits.Index())
        {
            var burst = Bursts([hit], ring: 0.02);
            SoxTake.Add(own, burst, 0, 1);
            SoxTake.Add(other, burst, 0, i % 2 == 0 ? 0.1 : second);
        }

        ImmutableArray<int> sounds = [.. hits.Select((_, i) => i % 2), .. beside.Select(_ => 2)];
        Part[] parts = [new("Own", [.. hits, .. beside], held) { Keys = [(0, 36), (0, 37)], Sounds = sounds }, new("Other", [.. beside], false) { Keys = [(0, 38)] }];
        var bleed = Assert.Single(Bleeds.Of([new Samples(own), new Samples(other)], [new(0, 1, [], 0), new(1, 1, [], 0)], parts, new(0, 0), default).Found[1]);
        Assert.Equal(10 * Math.Log10((0.01 + (second * second)) / 2), bleed.Level.Value, 0.2);
        Assert.Equal(about, bleed.About);
    }

    [Theory]
    [InlineData(0.1f, 0.03f)]
    [InlineData(0.03f, 0.1f)]
    public void Of_a_sound_that_rings_on_in_another_colour_the_level_is_that_of_all_of_it(float struck, float rung)
    {
        var (own, other, burst, ring) = RingingOn(0.25f, struck, rung);
        var bleed = Assert.Single(Told(own, other, RingingHits, [], held: false));
        Assert.False(bleed.About);
        Assert.Equal(10 * Math.Log10(((struck * struck * burst) + (rung * rung * ring)) / (burst + ring)), bleed.Level.Value, 0.6);
    }

    [Theory]
    [InlineData(0.12f, 0.1f, 0.2, 0.012, false)] // an eighth of its energy
    [InlineData(0.15f, 0.1f, 0.4, 0.012, true)] // a quarter
    [InlineData(0.1f, 0.005f, 0.03, 0, false)]
    [InlineData(0.18f, 0.005f, 0.03, 0, true)] // a third, and hits in whose way nothing else is
    [InlineData(0.18f, 0.005f, 0.001, 0, false)]
    public void Where_much_of_a_sound_lies_under_a_rumble_its_level_is_about(float rings, float rung, double rumble, double hiss, bool about)
    {
        // The hiss is under each hit, so that a filter tells it.
        var (own, other, _, _) = RingingOn(rings, 0.1f, rung);
        SoxTake.Add(other, Hiss(0, Seconds), 0, hiss);
        var low = 0.0;
        for (var i = 0; i < own.Length; i++)
        {
            low += (Noise() - low) / 64;
            other[i] += (float)(rumble * low);
        }

        var bleed = Assert.Single(Told(own, other, RingingHits, [], held: false));
        Assert.Equal(-20, bleed.Level.Value, 2.0);
        Assert.Equal(about, bleed.About);
    }

    [Fact]
    public void What_is_heard_beside_a_held_sound_makes_its_bleed_no_softer_where_a_hit_has_nothing_in_its_way()
    {
        // In its own file it hisses all the time, half as loud as what is held; where that bleeds in there is noise, but for two of the notes.
        double[] notes = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        var (element, own, other) = (Bursts(notes, ring: 0.5), new float[(int)(Seconds * Rate)], new float[(int)(Seconds * Rate)]);
        SoxTake.Add(own, element, 0, 1);
        SoxTake.Add(own, Hiss(0, Seconds), 0, 0.5);
        SoxTake.Add(other, element, 0, 0.1);
        SoxTake.Add(other, Hiss(8, Seconds), 0, 0.045);
        var bleed = Assert.Single(Told(own, other, notes, [], held: true));
        Assert.Equal(-20, bleed.Level.Value, 0.5);
        Assert.True(bleed.About);
    }

    [Theory]
    [InlineData(2, 6, 0.1, 0.0, true)]
    [InlineData(3, 16, 0.1, 0.0, true)]
    [InlineData(2, 6, 0.045, 0.0, true)] // 0.8 dB more than the others tell
    [InlineData(2, 6, 0.02, 0.0, false)] // 0.2 dB more
    [InlineData(2, 6, 0.0, 0.0, false)] // they tell what the others tell
    [InlineData(1, 4, 0.0, 0.0, false)]
    [InlineData(1, 3, 0.0, 0.0, true)] // of three hits one filter is made of one
    [InlineData(2, 6, 0.0, 0.05, false)] // an echo that makes 1 dB of the level
    [InlineData(2, 6, 0.0, 0.08, true)] // one that makes 2 dB of it, of which a short filter hears nothing: what the others tell is not sure
    public void Few_hits_in_whose_way_nothing_is_tell_no_level_against_all_others(int few, int all, double beside, double echo, bool about)
    {
        // The first have silence before them and another noise that begins with them; all others have hiss under them.
        double[] hits = [.. Enumerable.Range(1, all).Select(i => 2.3 * i)];
        var (own, other) = (Bursts(hits, ring: 0.5), new float[(int)(Seconds * Rate)]);
        SoxTake.Add(other, own, 0, 0.1);
        SoxTake.Add(other, own, 300, echo);
        SoxTake.Add(other, Bursts(hits[..few], ring: 0.5), 0, beside);
        SoxTake.Add(other, Hiss(hits[few - 1] + 1.5, Seconds), 0, 0.045);
        var bleed = Assert.Single(Told(own, other, hits, [], held: false));
        Assert.Equal(-20 + (10 * Math.Log10(1 + (100 * echo * echo))), bleed.Level.Value, 1.0);
        Assert.Equal(about, bleed.About);
    }

    [Theory]
    [InlineData(3, false, true)]
    [InlineData(4, false, false)]
    [InlineData(16, true, true)] // what is held is heard beside others, which a filter takes for less of it
    public void A_level_that_is_told_through_noise_is_exact_from_four_hits_on_of_what_is_struck(int count, bool held, bool about)
    {
        double[] hits = [.. Enumerable.Range(1, count).Select(i => 2.3 * i)];
        var (own, other) = (Bursts(hits, ring: 0.5), Scaled(Hiss(0, Seconds), 0.045f));
        SoxTake.Add(other, own, 0, 0.1);
        var bleed = Assert.Single(Told(own, other, hits, [], held: held));
        Assert.Equal(-20, bleed.Level.Value, 0.5);
        Assert.Equal(about, bleed.About);
    }

    [Theory]
    [InlineData(0.03, -19.6, false)]
    [InlineData(0.045, -19.2, true)] // a short filter tells 0.8 dB less
    [InlineData(0.06, -18.7, true)] // a short filter tells 1.3 dB less
    public void A_level_of_which_an_echo_is_a_part_is_told_as_exact_where_the_echo_is_soft(double echo, double level, bool about)
    {
        // Through hiss, so that filters tell it; the echo is 6 ms later, where only the longest of them reaches.
        double[] hits = [.. Enumerable.Range(1, 16).Select(i => 2.3 * i)];
        var (own, other) = (Bursts(hits, ring: 0.3), Hiss(0, Seconds));
        other = Scaled(other, 0.045f);
        SoxTake.Add(other, own, 0, 0.1);
        SoxTake.Add(other, own, 300, echo);
        var bleed = Assert.Single(Told(own, other, hits, [], held: false));
        Assert.Equal(level, bleed.Level.Value, 0.4);
        Assert.Equal(about, bleed.About);
    }

    [Theory]
    [InlineData(1, 1)]
    [InlineData(2.5, 0)]
    public void Of_three_hits_in_whose_way_nothing_is_all_tell_the_same_or_none_does(float third, int told)
    {
        // Another noise, a tenth as loud at the first three of ten hits; then there is hiss alone.
        double[] hits = [.. Enumerable.Range(1, 10).Select(i => 3.0 * i)];
        var (own, other) = (Bursts(hits, ring: 0.02), Bursts(hits[..3], ring: 0.02));
        other = [.. other.Select((s, i) => s * (i > 2.5 * 3 * Rate ? third : 1) * 0.1f)];
        SoxTake.Add(other, Hiss(11, Seconds), 0, 0.5);
        var bleeds = Told(own, other, hits, [], held: false);
        Assert.Equal(told, bleeds.Length);
        Assert.All(bleeds, b => Assert.Equal(-20, b.Level.Value, 1.0));
    }

    [Theory]
    [InlineData(40, 14)]
    [InlineData(14, 40)]
    [InlineData(20, 11)]
    public void Of_a_file_that_breaks_off_only_the_hits_it_holds_are_asked(double own, double other)
    {
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        var (sound, beside) = (Bursts(hits, ring: 0.3), Scaled(Hiss(0, Seconds), 0.045f));
        SoxTake.Add(beside, sound, 0, 0.1);
        var bleed = Assert.Single(Told(sound[..(int)(own * Rate)], beside[..(int)(other * Rate)], hits, [], held: false));
        Assert.Equal(-20, bleed.Level.Value, 1.0);
    }

    [Theory]
    [InlineData(0, 3, true)]
    [InlineData(-1, 3, false)]
    [InlineData(0, 1, false)]
    public void Where_fewer_than_three_hits_are_heard_whole_what_is_heard_there_is_the_most_that_may_be_hidden(int more, int last, bool told)
    {
        // A hit is heard whole where the file goes on for 4,096 frames from 12 ms before it.
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        var own = Bursts(hits, ring: 0.02);
        var end = (int)((hits[last - 1] - 0.012) * Rate) + 4096 + more;
        var (found, hidden) = Both(own, Scaled(own, 0.1f)[..end], hits, [], held: false);
        Assert.Equal(told, found.Length == 1);
        Assert.Equal(told ? 0 : 1, hidden.Length);
        Assert.All(found.Concat(hidden), b => Assert.InRange(b.Level.Value, -20.3, -18.9));
    }

    [Fact]
    public void Of_two_hits_the_louder_tells_how_much_may_be_hidden()
    {
        double[] hits = [3, 6, 9, 12];
        var own = Bursts(hits, ring: 0.02);
        var other = Scaled(own, 0.1f)[..(8 * Rate)];
        other.AsSpan(0, 5 * Rate).Clear(); // a hole
        Assert.InRange(Assert.Single(Both(own, other, hits, [], held: false).Hidden).Level.Value, -20, -18.9);
    }

    [Fact]
    public void Hits_before_a_file_begins_are_none()
    {
        double[] notes = [-1, 3, 6];
        var own = new Samples(Bursts([3, 6], ring: 0.02));
        Part[] parts = [new("Own", [.. notes], false) { Keys = [(0, 36)] }, new("Other", [], false) { Keys = [(0, 38)] }];
        Assert.Contains(0, Bleeds.Of([own, own], [new(0, 1, [], 0), new(1, 1, [], 0)], parts, new(0, 0), default).NeverAlone);
    }

    [Fact]
    public void Of_a_file_that_ends_before_any_hit_nobody_can_tell()
    {
        var own = Bursts([3, 6, 9, 12], ring: 0.02);
        var (found, hidden) = Both(own, own[..(2 * Rate)], [3, 6, 9, 12], [], held: false);
        Assert.Empty(found);
        Assert.Equal(0, Assert.Single(hidden).Level.Value);
    }

    [Fact]
    public void Of_tones_that_an_echo_makes_louder_or_softer_the_soft_ones_count_through_noise_as_well()
    {
        // Plucked tones of five pitches; their echo, 8 ms later and upside down, takes from some what it adds to others. Only these stand far out of the noise.
        double[] hits = [.. Enumerable.Range(1, 16).Select(i => 2.3 * i)];
        var (own, bled) = (new float[(int)(Seconds * Rate)], new float[(int)(Seconds * Rate)]);
        foreach (var (k, start) in hits.Select((t, k) => (k, (int)(t * Rate))))
        {
            for (var i = 0; i < Rate; i++)
            {
                var pluck = Enumerable.Range(1, 20).Sum(h => Math.Exp(-2.0 * h * i / Rate) * Math.Sin(2 * Math.PI * h * 120 * (1 + (0.1 * (k % 5))) * i / Rate) / h);
                own[start + i] = (float)(0.3 * Math.Exp(-3.0 * i / Rate) * pluck);
            }
        }

        SoxTake.Add(bled, own, 120, 0.1);
        SoxTake.Add(bled, own, 504, -0.08);
        static double Energy(float[] sound) => sound.Sum(s => (double)s * s);
        var bleed = Assert.Single(Told(own, Array.ConvertAll(bled, s => (float)(s + (0.0137 * Noise()))), hits, [], held: false));
        Assert.Equal(10 * Math.Log10(Energy(bled) / Energy(own)), bleed.Level.Value, 0.5);
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(0.1, 1)]
    public void What_has_begun_as_long_before_each_hit_and_only_dies_away_makes_no_bleed_and_hides_none(double bled, int told)
    {
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        double[] before = [.. hits.Select(h => h - 0.06)];
        var (own, other) = (Tones(hits, 200, 25), Tones(before, 220, 100));
        SoxTake.Add(other, own, 120, bled);
        var bleeds = Told(own, other, hits, before, held: false);
        Assert.Equal(told, bleeds.Length);
        Assert.All(bleeds, b => Assert.Equal(-20, b.Level.Value, 0.5));
    }

    [Theory]
    [InlineData(0.1f, 0)]
    [InlineData(0.6f, 1)]
    public void What_begins_beside_few_hits_is_no_bleed_where_all_that_is_heard_at_the_others_is_less(float rings, int told)
    {
        // At four of twelve hits another noise begins, a fifth as loud; before each of the others something else, softer than that at the hit or louder.
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        double[] before = [.. hits.Skip(4).Select(h => h - 0.04)];
        var (own, other) = (Bursts(hits, ring: 0.02), Scaled(Bursts(hits[..4], ring: 0.02), 0.2f));
        SoxTake.Add(other, Bursts(before, ring: 0.03), 0, rings);
        Assert.Equal(told, Told(own, other, hits, before, held: false).Length);
    }

    [Fact]
    public void Where_an_element_has_two_sounds_the_softer_one_in_the_clear_denies_nothing()
    {
        // Five hits bleed at a tenth; seven of another sound 10 dB softer, and three of those over something else that rings: by their energies at (5 * 0.1^2 + 7 * 0.03^2) / 12, which is -23.3 dB.
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        double[] before = [.. hits[9..].Select(h => h - 0.04)];
        var (loud, soft) = (Bursts(hits[..5], ring: 0.02), Bursts(hits[5..], ring: 0.02));
        float[] own = [.. loud.Zip(soft, (l, s) => l + s)];
        float[] other = [.. loud.Zip(soft, (l, s) => (0.1f * l) + (0.03f * s))];
        SoxTake.Add(other, Bursts(before, ring: 0.03), 0, 0.03);
        Assert.Equal(-23.3, Assert.Single(Told(own, other, hits, before, held: false)).Level.Value, 1.0);
    }

    [Theory]
    [InlineData(0.1, 1.0)]
    [InlineData(0.06, 1.02)]
    [InlineData(0.06, 1.3)]
    public void What_dies_away_at_each_hit_and_is_not_always_as_loud_may_hide_a_bleed_and_is_none(double apart, double higher)
    {
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        double[] before = [.. hits.Select(h => h - apart)];
        var (own, other) = (Tones(hits, 200, 25), new float[(int)(Seconds * Rate)]);
        foreach (var start in before)
        {
            SoxTake.Add(other, Tones([start], 200 * higher, 30), 0, 1 + (0.2 * Noise()));
        }

        var (found, hidden) = Both(own, other, hits, before, held: false);
        Assert.Empty(found);
        Assert.Single(hidden);
    }

    [Theory]
    [InlineData(1.02)]
    [InlineData(1.3)]
    public void No_more_may_be_hidden_than_all_that_is_heard(double higher)
    {
        // It sounds 30 ms before each hit, and rings like a bleed of 9 dB more than there is.
        double[] hits = [.. Enumerable.Range(1, 12).Select(i => 3.0 * i)];
        double[] before = [.. hits.Select(h => h - 0.03)];
        var (own, other) = (Tones(hits, 200, 25), Tones(before, 200 * higher, 100));
        double Heard(float[] sound) => sound.AsSpan((int)((hits[0] - 0.012) * Rate), 4096).ToArray().Sum(s => (double)s * s);
        var (found, hidden) = Both(own, other, hits, before, held: false);
        Assert.Empty(found);
        Assert.Equal(10 * Math.Log10(Heard(other) / Heard(own)) + 1, Assert.Single(hidden).Level.Value, 0.1);
    }

    private static ImmutableArray<Bleed> Told(float[] own, float[] other, double[] notes, double[] others, bool held) => Both(own, other, notes, others, held).Found;

    private static (ImmutableArray<Bleed> Found, ImmutableArray<Bleed> Hidden) Both(float[] own, float[] other, double[] notes, double[] others, bool held)
    {
        Part[] parts = [new("Own", [.. notes], held) { Keys = [(0, 36)] }, new("Other", [.. others], false) { Keys = [(0, 38)] }];
        Identity[] identities = [new(0, 1, [], 0), new(1, 1, [], 0)];
        var (found, hidden, _) = Bleeds.Of([new Samples(own), new Samples(other)], identities, parts, new(0, 0), default);
        return (found[1], hidden[1]);
    }

    /// <summary>A burst of bright noise and a low tone, of which two thirds come later than what is looked at of a hit; what another microphone hears of both; and the energies of both.</summary>
    private (float[] Own, float[] Other, double Burst, double Ring) RingingOn(float rings, float struck, float rung)
    {
        var (burst, ring) = (Bursts(RingingHits, ring: 0.02), Scaled(Tones(RingingHits, 100, 3), rings));
        for (var i = burst.Length - 1; i > 0; i--)
        {
            burst[i] -= burst[i - 1];
        }

        var (own, other) = (new float[burst.Length], new float[burst.Length]);
        SoxTake.Add(own, burst, 0, 1);
        SoxTake.Add(own, ring, 0, 1);
        SoxTake.Add(other, burst, 0, struck);
        SoxTake.Add(other, ring, 0, rung);
        return (own, other, Energy(burst), Energy(ring));

        static double Energy(float[] sound) => sound.Sum(s => (double)s * s);
    }

    private double Noise() => (2 * _random.NextDouble()) - 1;

    private float[] Bursts(double[] at, double ring)
    {
        var sound = new float[(int)(Seconds * Rate)];
        foreach (var start in at.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < Rate; i++)
            {
                sound[start + i] += (float)(0.2 * Math.Exp(-i / (ring * Rate)) * Noise());
            }
        }

        return sound;
    }

    private float[] Hiss(double from, double until)
    {
        var sound = new float[(int)(until * Rate)];
        for (var i = (int)(from * Rate); i < sound.Length; i++)
        {
            sound[i] = (float)(0.2 * Noise());
        }

        return sound;
    }

    private static float[] Tones(double[] at, double hertz, double decay)
    {
        var sound = new float[(int)(Seconds * Rate)];
        foreach (var start in at.Select(t => (int)(t * Rate)))
        {
            for (var i = 0; i < Rate; i++)
            {
                sound[start + i] += (float)(0.2 * Math.Exp(-decay * i / Rate) * Enumerable.Range(1, 5).Sum(h => Math.Sin(2 * Math.PI * h * h * hertz * i / Rate) / h));
            }
        }

        return sound;
    }

    private static float[] Scaled(float[] sound, float by) => Array.ConvertAll(sound, s => by * s);
}

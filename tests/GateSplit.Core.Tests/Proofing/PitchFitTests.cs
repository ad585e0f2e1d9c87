using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>How well the pitches of a track fit held notes: on sines, of which every pitch is known.</summary>
public sealed class PitchFitTests
{
    private const int Rate = 48000;
    private const int Count = 16;
    private static readonly int[] Keys = [60, 64, 67, 62];
    private static readonly Part Own = Held("Pad", 0);
    private static readonly Part Other = Held("Lead", 1);

    [Fact]
    public void Notes_that_sound_fit_their_part_and_no_other()
    {
        Assert.InRange(Fit(Sounding(1), Own), 0.9, 1);
        Assert.InRange(Fit(Sounding(1), Other), -0.5, 0.3);
        Assert.InRange(Fit(Sounding(0, 1), Other), 0.9, 1);
        Assert.Null(Of(Sounding(1), new Part("Kick", [1, 2, 3, 4], false), 0));
    }

    [Theory]
    [InlineData(0.01)] // 40 dB below
    [InlineData(0.1)]
    public void What_bleeds_in_where_a_part_is_missing_counts_by_its_level(double bleed)
    {
        // The first third of its notes is missing, and another is heard there.
        float[] sound = Sounding(1);
        var other = Sounding(0, bleed);
        Array.Clear(sound, 0, sound.Length / 3);
        var fit = Fit(sound.Zip(other, (a, b) => a + b), Own);

        Array.Clear(other);
        var without = Fit(sound.Zip(other, (a, b) => a + b), Own);
        Assert.InRange(fit, without - 0.12, without);
        Assert.InRange(without, 0.6, 0.95); // what is missing is missing
    }

    [Fact]
    public void A_soft_note_is_a_note()
    {
        // 12 dB below the others, as a hand plays.
        var sound = Sounding(1);
        for (var i = 0; i < sound.Length / 3; i++)
        {
            sound[i] *= 0.25f;
        }

        Assert.InRange(Fit(sound, Own), 0.9, 1);
    }

    [Fact]
    public void Where_a_file_begins_late_or_breaks_off_nothing_is_missing()
    {
        var whole = Sounding(1);
        Assert.InRange(Fit(whole[..(whole.Length / 3)], Own), 0.9, 1);
        Assert.InRange(Of(whole[(whole.Length * 2 / 3)..], Own, -2.0 * (Count + 1) / 3)!.Value, 0.9, 1);
        Assert.Null(Of(whole[..(int)(2.5 * Rate)], Own, 0)); // too few of its windows lie in it
    }

    [Fact]
    public void A_long_note_that_begins_elsewhere_is_told_by_what_sounds_before_it()
    {
        // Bound together: half a second beside, each note still sounds where it should have begun, and the one before it where that should end.
        var bound = Held("Pad", 0, 1);
        var sound = Sounding(1, own: bound);
        Assert.InRange(Of(sound, bound, 0)!.Value, 0.9, 1);
        Assert.InRange(Of(sound, bound, 0.5)!.Value, 0.3, 0.7);
        Assert.InRange(Of(sound, bound, -0.5)!.Value, 0.3, 0.7);
    }

    private static Part Held(string name, int up, double length = 0.8)
    {
        Tone[] tones = [.. Enumerable.Range(0, Count).Select(i => new Tone(i, i + length, Keys[i % Keys.Length] + up))];
        return new Part(name, [.. tones.Select(t => t.Start)], true) { Tones = [.. tones] };
    }

    private static float[] Sounding(double level, double another = 0, Part? own = null)
    {
        var sound = new float[(Count + 1) * Rate];
        foreach (var (part, gain) in new[] { (own ?? Own, level), (Other, another) })
        {
            foreach (var tone in part.Tones)
            {
                for (var i = (int)(tone.Start * Rate); i < tone.End * Rate; i++)
                {
                    sound[i] += (float)(0.3 * gain * Math.Sin(2 * Math.PI * 440 * Math.Pow(2, (tone.Key - 69) / 12.0) * i / Rate));
                }
            }
        }

        return sound;
    }

    private static double Fit(IEnumerable<float> sound, Part part) => Of([.. sound], part, 0)!.Value;

    private static double? Of(float[] sound, Part part, double offset)
    {
        List<IMonoSound?> sounds = [new Samples(sound, Rate)];
        return PitchFit.Of(sounds, [part, part == Own ? Other : Own], new TakeTime(offset, 0), CancellationToken.None)[0, 0];
    }
}

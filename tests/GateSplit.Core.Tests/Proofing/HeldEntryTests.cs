using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>How many held notes are missing where a file begins, told by the harmonics of their pitches while others sound as loud.</summary>
public sealed class HeldEntryTests
{
    private const int Rate = 48000;
    private const double Every = 0.4;
    private static readonly int[] Bass = [.. Enumerable.Range(0, 24).Select(i => new[] { 45, 47, 50, 52 }[i % 4])];
    private static readonly int[] Keys = [.. Enumerable.Range(0, 24).Select(i => new[] { 61, 65, 68 }[i % 3])];

    [Theory]
    [InlineData(3, 0, 3)]
    [InlineData(2, 0, 2)]
    [InlineData(1, 0, 0)] // one may be a ghost
    [InlineData(0, 0, 0)]
    [InlineData(3, -26, 3)]
    [InlineData(3, -9, 0)] // played so
    [InlineData(10, -40, 10)]
    public void Another_as_loud_hides_neither_what_is_there_nor_what_is_missing(int missing, double db, int told)
    {
        var level = db == 0 ? 0 : Math.Pow(10, db / 20);
        Assert.Equal(told, Missing(Sum(Played(Bass, i => i < missing ? level : 0.3), Played(Keys, _ => 0.3)), Part("Keys", Keys)));
    }

    [Fact]
    public void What_is_as_soft_further_on_is_played_so() =>
        Assert.Equal(0, Missing(Sum(Played(Bass, i => i < 3 || i % 5 == 0 ? 0.01 : 0.3), Played(Keys, _ => 0.3)), Part("Keys", Keys)));

    [Theory]
    [InlineData(0, 2)] // of two that are missing one is hidden; nothing at all is heard of the other
    [InlineData(0.03, 0)] // 20 dB: a ghost
    public void Of_two_one_may_be_hidden_by_another_that_plays_the_same(double level, int told)
    {
        int[] same = [Bass[0], .. Keys[1..]];
        Assert.Equal(told, Missing(Sum(Played(Bass, i => i < 2 ? level : 0.3), Played(same, _ => 0.3)), Part("Keys", same)));
    }

    [Fact]
    public void Where_faint_harmonics_alone_can_be_heard_of_one_note_they_do_not_tell_it_missing()
    {
        // Another plays an octave below the first note, so that its seventh and eighth harmonic are all that can be heard, and what the second note is; the first begins without them.
        int[] other = [Bass[0] - 12, Bass[1], .. Keys[2..]];
        Assert.Equal(0, Missing(Played(Bass, _ => 0.3, dull: 1), Part("Keys", other)));
    }

    [Fact]
    public void What_another_played_and_has_ended_hides_nothing_later()
    {
        // A chord of all that the bass will play lies over its first note, and dies away.
        var chord = Bass[..4].Select(key => new Tone(1, 1.35, key)).ToImmutableArray();
        var sound = Sum(Played(Bass, i => i < 3 ? 0 : 0.3), Played(Keys, _ => 0.3));
        foreach (var tone in chord)
        {
            sound = Sum(sound, Played([tone.Key], _ => 0.3));
        }

        Part[] others = [Part("Keys", Keys), new Part("Pad", [1], true) { Tones = chord }];
        Assert.Equal(3, LateEntry.Missing(new Samples(sound, Rate), Part("Bass", Bass), others, new TakeTime(0, 0), 0));
    }

    [Fact]
    public void Where_another_plays_the_same_all_along_the_levels_tell()
    {
        Assert.Equal(4, Missing(Sum(Played(Bass, i => i < 4 ? 0 : 0.3), Played(Bass, _ => 0.01)), Part("Double bass", Bass)));
        Assert.Equal(0, Missing(Sum(Played(Bass, i => i < 4 ? 0 : 0.3), Played(Bass, _ => 0.3)), Part("Double bass", Bass)));
    }

    [Fact]
    public void What_does_not_sound_at_its_pitches_is_told_by_its_levels()
    {
        var random = new Random(4);
        float[] Noise(Func<int, double> level) => [.. Enumerable.Range(0, (int)(11 * Rate)).Select(i => (float)((random.NextDouble() - 0.5) * ((i - Rate) is >= 0 and var at && at % (int)(Every * Rate) < 0.2 * Rate ? level(at / (int)(Every * Rate)) : 0.001)))];
        Assert.Equal(4, Missing(Noise(i => i < 4 ? 0.02 : 0.5)));
        Assert.Equal(0, Missing(Noise(_ => 0.5)));
    }

    [Fact]
    public void Notes_before_the_file_do_not_count_but_one_that_begins_just_before_it_does()
    {
        var sound = Sum(Played(Bass, i => i < 4 ? 0 : 0.3), Played(Keys, _ => 0.3));
        Assert.Equal(2, Missing(sound[(int)((1 + (2 * Every)) * Rate - 240)..], Part("Keys", Keys), -(1 + (2 * Every)) + 0.005));
        Assert.Equal(2, Missing(sound[(int)((1 + (2 * Every)) * Rate + 240)..], Part("Keys", Keys), -(1 + (2 * Every)) - 0.005));
        Assert.Equal(0, Missing(sound[(int)((1 + (2 * Every)) * Rate + 1200)..], Part("Keys", Keys), -(1 + (2 * Every)) - 0.025));
    }

    private static int? Missing(float[] sound, Part? other = null, double offset = 0) =>
        LateEntry.Missing(new Samples(sound, Rate), Part("Bass", Bass), other is null ? [] : [other], new TakeTime(offset, 0), 0);

    private static Part Part(string name, int[] keys)
    {
        var tones = keys.Select((key, i) => new Tone(1 + (i * Every), 1 + (i * Every) + 0.35, key)).ToImmutableArray();
        return new Part(name, [.. tones.Select(t => t.Start)], true) { Tones = tones };
    }

    /// <summary>Twelve harmonics, each softer than the one below it, that rise in 20 ms and are held to the next note; the first notes may be dull, of three harmonics.</summary>
    private static float[] Played(int[] keys, Func<int, double> level, int dull = 0)
    {
        var sound = new float[11 * Rate];
        for (var note = 0; note < keys.Length; note++)
        {
            var (start, frequency, own) = ((int)((1 + (note * Every)) * Rate), 440 * Math.Pow(2, (keys[note] - 69) / 12.0), level(note));
            for (var i = 0; i < 0.35 * Rate; i++)
            {
                var held = own * Math.Min(1, Math.Min(i / 960.0, (0.35 * Rate - i) / 960.0));
                for (var h = 1; h <= (note < dull ? 3 : 12); h++)
                {
                    sound[start + i] += (float)(held / h * Math.Sin(2 * Math.PI * h * frequency * i / Rate));
                }
            }
        }

        return sound;
    }

    private static float[] Sum(float[] one, float[] other) => [.. one.Zip(other, (a, b) => a + b)];
}

using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>How many notes are missing where a file begins, told by their levels.</summary>
public sealed class LateEntryTests
{
    private const int Rate = 48000;
    private static readonly double[] Notes = [.. Enumerable.Range(0, 16).Select(i => 0.5 + 0.25 * i)];

    [Theory]
    [InlineData(3, 3)] // the first of them
    [InlineData(2, 2)]
    [InlineData(1, 0)] // one may be a ghost
    [InlineData(0, 0)]
    [InlineData(11, 11)]
    [InlineData(13, 0)] // too few are left to compare with
    public void The_notes_before_the_first_that_sounds_are_counted(int missing, int told) => Assert.Equal(told, Missing(Struck(i => i < missing ? 0 : 1)));

    [Fact]
    public void What_bleeds_in_at_their_places_is_softer_than_they()
    {
        Assert.Equal(4, Missing(Struck(i => i < 4 ? 0.1 : 1)));
        Assert.Equal(0, Missing(Struck(i => i < 4 ? 0.6 : 1))); // 4 dB: played so
        Assert.Equal(0, Missing(Struck(i => i % 2 == 0 ? 0.1 : 1))); // as soft later on
        Assert.Equal(0, Missing(Struck(i => i is > 4 and < 9 ? 0 : 1))); // missing in the middle
    }

    [Theory]
    [InlineData(4, false)]
    [InlineData(5, true)]
    public void Few_notes_have_no_level_to_compare_with(int count, bool told)
    {
        var few = Notes[..count];
        Assert.Equal(told, Missing(Struck(_ => 1, notes: few), notes: few) is 0);
        Assert.Equal(!told, Missing(Struck(_ => 1, notes: few), notes: few) is null);
    }

    [Fact]
    public void Notes_before_the_file_begins_do_not_count() => Assert.Equal(2, Missing(Struck(i => i < 4 ? 0 : 1, -0.8), -0.8));

    [Fact]
    public void Another_that_sounds_at_their_places_in_bands_of_its_own_does_not_hide_it()
    {
        // A low tone as loud as they, at half of their places and in between: there it tells which bands are its own.
        double[] notes = [.. Enumerable.Range(0, 10).Select(i => 0.5 + (0.5 * i))];
        var other = new Part("Tom", [.. Enumerable.Range(0, 19).Select(i => 0.5 + (0.25 * i))], false);
        float[] Bled(double own)
        {
            var sound = Struck(i => i < 4 ? own : 1, notes: notes);
            foreach (var note in other.Notes)
            {
                for (var i = 0; i < 6000; i++)
                {
                    sound[(int)(note * Rate) + i] += (float)(0.9 * Math.Exp(-i / 1500.0) * Math.Sin(2 * Math.PI * 90 * i / Rate));
                }
            }

            return sound;
        }

        Assert.Equal(4, Missing(Bled(0), others: other, notes: notes));
        Assert.Equal(0, Missing(Bled(1), others: other, notes: notes));
        Assert.Equal(0, Missing(Bled(0.7), others: other, notes: notes)); // played so
        Assert.Equal(0, Missing(Bled(0), others: other, notes: notes, held: true)); // held notes have no bands of their own
        Assert.Equal(0, Missing(Bled(0), notes: notes)); // without knowing what else plays, they may be its own
    }

    [Fact]
    public void Where_a_file_breaks_off_nothing_is_missing_at_its_start()
    {
        var sound = Struck(i => i < 3 ? 0 : 1);
        Assert.Equal(3, Missing(sound[..(int)(3.4 * Rate)])); // a third of its notes lie behind its end
        Assert.Equal(0, Missing(Struck(_ => 1)[..(int)(3.4 * Rate)]));
    }

    [Fact]
    public void Of_what_is_missing_one_place_may_be_louder_by_what_else_sounds_there()
    {
        Assert.Equal(5, Missing(Struck(i => i == 2 ? 0.55 : i < 5 ? 0.02 : 1))); // 5 dB below the others, where the rest is 34 dB below
        Assert.Equal(0, Missing(Struck(i => i == 2 ? 0.8 : i < 5 ? 0.02 : 1)));
        Assert.Equal(0, Missing(Struck(i => i < 5 ? 0.55 : 1)));
    }

    [Theory]
    [InlineData("-x--", 0.02, true, 4)] // 34 dB softer, and one as loud as they
    [InlineData("-x--", 0.04, true, 0)] // 28 dB: a ghost
    [InlineData("-x--", 0.02, false, 0)] // nothing else plays there
    [InlineData("x--x-", 0.02, true, 5)]
    [InlineData("xx-x-", 0.02, true, 0)] // most are heard
    [InlineData("-x", 0.02, true, 0)] // one may be a ghost
    [InlineData("x-x-", 0.02, true, 4)]
    public void Most_of_the_first_notes_are_missing_where_another_sounds_at_the_places_of_the_others(string first, double level, bool plays, int told)
    {
        var other = new Part("Tom", [.. first.Index().Where(n => n.Item == 'x').Select(n => Notes[n.Index] + 0.001)], false);
        Assert.Equal(told, Missing(Struck(i => i < first.Length && first[i] == '-' ? level : 1), others: plays ? other : null));
    }

    [Fact]
    public void Held_notes_are_of_many_levels()
    {
        Assert.Equal(4, Missing(Struck(i => i < 4 ? 0.25 : 1), held: true)); // 12 dB
        Assert.Equal(0, Missing(Struck(i => i < 4 ? 0.4 : 1), held: true)); // 8 dB
        Assert.Equal(4, Missing(Struck(i => i < 4 ? 0.4 : 1)));
    }

    [Theory]
    [InlineData(0.46, 5, 5)] // another sounds where two of five are missing: 6.7 dB below the others
    [InlineData(0.6, 5, 0)] // 4 dB: it is played
    [InlineData(0.46, 2, 0)] // two, of which one is heard
    [InlineData(0.46, 3, 3)]
    public void Most_of_the_held_notes_at_the_start_are_missing_where_another_sounds_at_the_places_of_some(double heard, int missing, int told) =>
        Assert.Equal(told, Missing(Struck(i => i >= missing ? 1 : i is 1 or 4 ? heard : 0.01), held: true));

    [Theory]
    [InlineData(1, 2)] // one is as soft further on: it may be missing as well
    [InlineData(2, 0)] // an element of several sounds, of which one is soft and rare
    public void What_is_as_soft_further_on_is_played_so(int soft, int told)
    {
        double[] notes = [.. Enumerable.Range(0, 44).Select(i => 0.2 + (0.125 * i))];
        Assert.Equal(told, Missing(Struck(i => i < 2 || (i > 20 && i <= 20 + soft) ? 0.01 : 1, notes: notes), notes: notes));
    }

    [Fact]
    public void A_note_that_begins_a_little_before_the_file_counts()
    {
        Assert.Equal(2, Missing(Struck(i => i < 2 ? 0 : 1, -0.505), -0.505)); // 5 ms: most of it would be heard
        Assert.Equal(0, Missing(Struck(i => i < 2 ? 0 : 1, -0.52), -0.52)); // 20 ms: only one is missing of those that lie in it
        Assert.Equal(0, Missing(Struck(_ => 1, -0.505), -0.505));
    }

    [Theory]
    [InlineData("hkkhkk", 0.0, 6)] // a hat as soft as the noise tells nothing, the drum does
    [InlineData("hkhhh", 0.0, 0)] // one of which may be a ghost
    [InlineData("hkkhhh", 0.0, 3)] // the last of those that tell it
    [InlineData("hhhhhhhh", 0.0, 0)] // all that plays at first is the hat
    [InlineData("hkkhkk", 1.0, 0)] // none is missing
    [InlineData("hskkhkk", 0.0, 0)] // something is heard before, or between
    [InlineData("htkkhkk", 0.0, 0)] // however soft, if it is over the noise
    [InlineData("hkksKK", 0.0, 3)]
    [InlineData("hkkrkk", 0.0, 6)] // of what is rare nobody knows how loud it is
    public void Of_several_sounds_each_is_compared_with_itself(string first, double drum, int told)
    {
        // A hat 20 dB below the noise at a third of the places, a drum at the others, and a snare now and then.
        var played = first + string.Concat(Enumerable.Repeat("hkkhskhkkhsk", 3));
        double[] notes = [.. Enumerable.Range(0, played.Length).Select(i => 0.2 + (0.125 * i))];
        var random = new Random(2);
        var sound = Array.ConvertAll(Struck(i => played[i] switch { 'h' => 0.001, 'k' => i < first.Length ? drum : 1, 'K' => 1, 's' => 0.5, 't' => 0.1, _ => 0 }, notes: notes), s => s + (float)(0.01 * ((2 * random.NextDouble()) - 1)));
        int? Missing(Part part) => LateEntry.Missing(new Samples(sound, Rate), part, [], new TakeTime(0, 0), 0);
        var part = new Part("Kit", [.. notes], false) { Sounds = [.. played.Select(p => (int)char.ToLowerInvariant(p))] };
        Assert.Equal(told, Missing(part));

        // Without it, what is as soft further on is played so.
        Assert.Equal(0, Missing(part with { Sounds = [] }));
        Assert.Equal(0, Missing(part with { Sounds = part.Sounds[1..] }));
        Assert.Equal(0, Missing(part with { Held = true }));
    }

    [Theory]
    [InlineData("hhh", 0.1, 0)] // a hat begins, 20 dB under the drum, and is 2 dB louder further on
    [InlineData("xxx", 0.1, 3)] // the drum is missing
    [InlineData("hxx", 0.1, 3)] // of two sounds one is
    [InlineData("rqs", 0.1, 0)] // of what is rare nobody knows how loud it is, but it begins there
    [InlineData("rq-", 0.1, 0)] // most of them do
    [InlineData("r--", 0.1, 3)]
    [InlineData("rqs", 0.001, 3)] // in noise it does not
    [InlineData("rqs", 0, 3)]
    public void A_soft_sound_that_begins_is_played_so(string first, double level, int told)
    {
        var (part, sound) = Kit(first, level);
        Assert.Equal(told, LateEntry.Missing(sound, part, [], new TakeTime(0, 0), 0));
    }

    [Theory]
    [InlineData(0.0, true, 3)] // what begins at their places may be another
    [InlineData(0.3, true, 0)]
    [InlineData(0.0, false, 0)] // which plays at those only: the kit hears it
    public void What_begins_where_another_plays_may_be_that(double beside, bool elsewhere, int told)
    {
        var (part, sound) = Kit("rqs", 0.1);
        var other = new Part("Tom", [.. part.Notes.Take(3).Select(n => n + beside), .. elsewhere ? [part.Notes[^1] + 1] : Array.Empty<double>()], false);
        Assert.Equal(told, LateEntry.Missing(sound, part, [other], new TakeTime(0, 0), 0));
    }

    /// <summary>A drum with a hat now and then, in a little noise; x is a drum that is as soft as the first sounds, - a sound that is missing.</summary>
    private static (Part Part, Samples Sound) Kit(string first, double level)
    {
        var played = first + string.Concat(Enumerable.Repeat("kkkkhkkkkkkkkkkkkkkk", 4));
        double[] notes = [.. Enumerable.Range(0, played.Length).Select(i => 0.2 + (0.5 * i))];
        var random = new Random(3);
        var sound = Array.ConvertAll(Struck(i => i < first.Length ? (first[i] == '-' ? 0 : level) : played[i] == 'k' ? 1 : 0.13, notes: notes), s => s + (float)(0.001 * ((2 * random.NextDouble()) - 1)));
        return (new Part("Kit", [.. notes], false) { Sounds = [.. played.Select(p => p == 'x' ? 'k' : (int)p)] }, new Samples(sound, Rate));
    }

    private static int? Missing(float[] sound, double offset = 0, Part? others = null, bool held = false, double[]? notes = null) =>
        LateEntry.Missing(new Samples(sound, Rate), new Part("Kick", [.. notes ?? Notes], held), others is null ? [] : [others], new TakeTime(offset, 0), 0);

    private static float[] Struck(Func<int, double> level, double offset = 0, double[]? notes = null)
    {
        notes ??= Notes;
        var random = new Random(1);
        var sound = new float[Math.Max(6, (int)notes[^1] + 1) * Rate];
        for (var note = 0; note < notes.Length; note++)
        {
            for (var i = 0; i < 4000; i++)
            {
                if ((int)((notes[note] + offset) * Rate) + i is >= 0 and var at)
                {
                    sound[at] += (float)(level(note) * Math.Exp(-i / 900.0) * (2 * random.NextDouble() - 1));
                }
            }
        }

        return sound;
    }
}

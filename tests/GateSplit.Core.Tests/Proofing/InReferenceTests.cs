using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Where each file of a take lies in a mix of all, on sounds that are noise or nothing but a tone.</summary>
public sealed class InReferenceTests
{
    private const int Rate = 48000;
    private const int Length = 20 * Rate;

    [Fact]
    public void The_take_lies_where_more_files_agree_than_anywhere_else()
    {
        // Told of a place that is 40 frames off, it finds that of the three.
        var (place, lags, signs) = Placed(40, (Noise(1), 0, 1), (Noise(2), 0, 1), (Noise(3), 0, -1), (Noise(4), 200, 1), (Noise(5), 200, 1));
        Assert.Equal(0, place);
        Assert.Equal([0, 0, 0, 200, 200], lags);
        Assert.Equal([1, 1, -1, 1, 1], signs);
    }

    [Theory]
    [InlineData(2)]
    [InlineData(-2)]
    [InlineData(100)]
    public void The_take_lies_where_its_only_file_lies(int beside)
    {
        var (place, lags, signs) = Placed(beside, (Noise(1), 0, -1));
        Assert.Equal(0, place);
        Assert.Equal([0], lags);
        Assert.Equal([-1], signs);
    }

    [Fact]
    public void Where_no_place_has_more_than_another_it_stays_where_the_sum_lies()
    {
        var (place, lags, _) = Placed(0, (Noise(1), 300, 1), (Noise(2), 300, 1), (Noise(3), 0, 1), (Noise(4), 0, 1));
        Assert.Equal(0, place);
        Assert.Equal([300, 300, 0, 0], lags);
    }

    [Fact]
    public void What_only_the_rest_of_the_mix_tells_is_asked_where_the_take_lies()
    {
        // Two tones swell, and noise bleeds into them later, and begins more clearly; both noises are late by themselves, which their notes tell badly.
        var (one, other) = (Noise(3), Noise(4));
        var (place, lags, signs) = Placed(9, (Swelling(150), 0, 1, one, null), (Swelling(190), 0, -1, other, null), (one, 220, 1, null, 235), (other, -150, 1, null, -165));
        Assert.Equal(0, place, 1.0);
        Assert.All(lags.Zip([0.0, 0, 220, -150]), l => Assert.Equal(l.Second, l.First!.Value, 1.0));
        Assert.Equal([1, -1, 1, 1], signs);
    }

    [Fact]
    public void Where_half_of_the_files_lie_a_little_beside_the_take_lies_where_most_lie_together_exactly()
    {
        var (place, lags, _) = Placed(0, (Noise(1), 0, 1), (Noise(2), -5, 1), (Noise(3), -4, 1), (Noise(4), 0, 1), (Noise(5), -4, 1), (Noise(6), 0, 1));
        Assert.Equal(0, place);
        Assert.Equal([0, -5, -4, 0, -4, 0], lags);
    }

    [Theory]
    [InlineData(0.4, false)]
    [InlineData(0.7, false)]
    [InlineData(1, true)]
    public void A_little_beside_its_take_lies_only_what_is_clearly_heard_in_the_mix(double loud, bool told)
    {
        // A tone that the mix lacks, and beside it, upside down and later, a noise that is in the mix and has no file; nor has another noise there.
        var (other, mix, file) = (Noise(3), Noise(9), new float[Length]);
        SoxTake.Add(mix, Noise(5), 0, 1);
        SoxTake.Add(mix, other, 0, loud);
        SoxTake.Add(file, Swelling(150), 0, 1);
        SoxTake.Add(file, other, 20, -1);
        var (_, lags, signs, _) = new InReference(
            new Samples(mix), [new Samples(Noise(9)), new Samples(file)], new bool[2], [Beginnings, Beginnings], [null, null], default).Of((0, 0), []);
        Assert.Equal(told, lags[1] is { Frames: > 19 and < 21 });
        Assert.Equal([1, told ? -1 : null], signs);
    }

    [Theory]
    [InlineData(null, true)]
    [InlineData(0, false)] // it begins before it would lie there
    [InlineData(361, false)]
    [InlineData(363, true)] // by less than notes tell
    [InlineData(700, true)]
    public void A_file_lies_no_later_than_its_sounds_begin(int? begins, bool told)
    {
        // A tone that is faint in the mix, and what bleeds into its file 400 frames later.
        var (noise, tone, mix, file) = (Noise(3), Swelling(150), Noise(9), new float[Length]);
        SoxTake.Add(mix, noise, 0, 1);
        SoxTake.Add(mix, tone, 0, 0.2);
        SoxTake.Add(file, noise, 400, 0.5);
        SoxTake.Add(file, tone, 0, 0.2);
        var (_, lags, _, _) = new InReference(
            new Samples(mix), [new Samples(Noise(9)), new Samples(file)], new bool[2], [Beginnings, Beginnings], [null, null], default)
        {
            Begins = [null, (double?)begins / Rate],
        }.Of((0, 0), []);
        Assert.Equal(told, lags[1] is { Frames: > 399 and < 401 });
    }

    [Theory]
    [InlineData(0, 120)]
    [InlineData(0, 0)]
    [InlineData(40, -120)]
    public void Where_few_files_have_notes_and_are_late_the_others_tell_where_the_take_lies(int told, int wrong)
    {
        var (place, lags, _) = Placed(told, (Noise(1), 0, 1, null, null), (Noise(2), 0, 1, null, null), (Noise(3), 0, 1, null, null), (Noise(4), 270, 1, null, 270 + wrong), (Noise(5), -120, 1, null, wrong - 120));
        Assert.Equal(0, place);
        Assert.Equal([0, 0, 0, 270, -120], lags);
    }

    [Fact]
    public void Where_all_that_has_notes_is_late_it_lies_with_them_wherever_the_take_is_laid()
    {
        // The take was laid by the louder of the two, and the notes tell only how far they lie apart: as many files lie together with them as without.
        var (place, lags, signs) = Placed(-198, (Noise(1), 0, 1, null, null), (Noise(2), 0, -1, null, null), (Noise(4), -198, 1, null, -309), (Noise(5), 111, 1, null, 0));
        Assert.Equal(0, place);
        Assert.Equal([0, 0, -198, 111], lags);
        Assert.Equal([1, -1, 1, 1], signs);
    }

    [Theory]
    [InlineData(-150, -150, 40, -110)]
    [InlineData(187, 187, 31, 218)]
    [InlineData(-187, null, -31, null)]
    public void Where_what_has_notes_is_not_found_at_once_it_lies_where_its_notes_are_wherever_the_take_is_laid(int told, int? notes, int known, int? late)
    {
        List<float[]> files = [Noise(1), Noise(2), Noise(3), [.. Noise(5).Select(s => 0.05f * s)]];
        var mix = new float[Length];
        files.ForEach(f => SoxTake.Add(mix, f, 0, 1));
        var moved = new float[Length];
        SoxTake.Add(moved, files[3], told + known, 1);
        var (place, lags, signs, _) = new InReference(
            new Samples(mix), [.. files.Take(3).Append(moved).Select(f => new Samples(f))], new bool[4], [.. files.Select(_ => Beginnings)], [null, null, null, (double)known / Rate], default)
        {
            Notes = notes is { } offset ? new TakeTime((double)offset / Rate, 0, 0) : null,
        }.Of((told, 0), []);
        Assert.Equal(0, place.Start);
        Assert.Equal([0, 0, 0, late], lags.Select(l => l is { } lag ? (double?)Math.Round(lag.Frames) : null));
        Assert.Equal([1, 1, 1, late is null ? null : 1], signs);
    }

    [Theory]
    [InlineData(106, 220)]
    [InlineData(-106, 8)]
    public void A_file_found_late_takes_with_it_the_soft_one_whose_notes_lie_beside_its_own(int one, int other)
    {
        float[] soft = [.. Noise(5).Select(s => 0.05f * s)];
        var (place, lags, signs) = Placed(0, (Noise(1), 0, 1, null, null), (Noise(2), 0, 1, null, null), (Noise(4), one, 1, null, 0), (soft, other, -1, null, other - one));
        Assert.Equal(0, place);
        Assert.Equal([0, 0, one, other], lags);
        Assert.Equal([1, 1, 1, -1], signs);
    }

    [Fact]
    public void What_was_told_of_a_file_while_another_lay_wrong_is_asked_again()
    {
        // Beside a hat a drone is heard upside down, and louder; that alone explains the mix until the drone's own file, into which noise bleeds late, is laid right.
        var (drone, noise, hat) = (Swelling(150).Select(s => 4 * s).ToArray(), Noise(3), Swelling(190).Select(s => 1.5f * s).ToArray());
        var (mix, near, beside) = (Noise(9).Select(s => 0.3f * s).ToArray(), new float[Length], new float[Length]);
        foreach (var sound in new[] { drone, noise, hat })
        {
            SoxTake.Add(mix, sound, 0, 1);
        }

        SoxTake.Add(near, drone, 0, 1);
        SoxTake.Add(near, noise, 400, 0.5);
        SoxTake.Add(beside, hat, 0, 1);
        SoxTake.Add(beside, drone, 0, -0.8);
        var (_, lags, signs, _) = new InReference(
            new Samples(mix), [new Samples(near), new Samples(noise), new Samples(beside)], new bool[3], [Beginnings, Beginnings, Beginnings], [null, null, null], default).Of((0, 0), []);
        Assert.Equal(0, lags[0]!.Value.Frames, 1.0);
        Assert.Equal([1, 1, null], signs);
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(300, 300)]
    public void What_bleeds_in_does_not_move_a_file_whose_notes_tell_where_it_lies(int late, int known)
    {
        // Its own tone goes with itself at many places, and faintly; what bleeds into it 400 frames later is clear in the mix.
        var (noise, tone, mix, file) = (Noise(3), Swelling(150), Noise(9), new float[Length]);
        SoxTake.Add(mix, noise, 0, 1);
        SoxTake.Add(mix, tone, 0, 0.2);
        SoxTake.Add(file, tone, late, 0.2);
        SoxTake.Add(file, noise, late + 400, 0.5);
        var (_, lags, _, _) = new InReference(
            new Samples(mix), [new Samples(Noise(9)), new Samples(file)], new bool[2], [Beginnings, Beginnings], [null, (double)known / Rate], default).Of((0, 0), []);
        Assert.InRange(lags[1]?.Frames ?? known, known - 40, known + 40);
    }

    [Theory]
    [InlineData(0, 0.5)]
    [InlineData(30, 0)]
    public void Where_notes_place_a_file_on_its_take_it_lies_beside_it_only_if_the_mix_is_explained_by_it_there(int late, double bleed)
    {
        // Notes tell a place to 38 frames. What bleeds in 30 frames later begins more clearly than the tone, and is no more of the mix than that.
        var (noise, tone, mix, file) = (Noise(3), Swelling(150).Select(s => 4 * s).ToArray(), Noise(9).Select(s => 0.1f * s).ToArray(), new float[Length]);
        SoxTake.Add(mix, noise, 0, 1);
        SoxTake.Add(mix, tone, 0, 1);
        SoxTake.Add(file, tone, late, 1);
        SoxTake.Add(file, noise, 30, bleed);
        var (_, lags, signs, _) = new InReference(
            new Samples(mix), [new Samples(noise), new Samples(file)], new bool[2], [Beginnings, Beginnings], [0, 0], default).Of((0, 0), []);
        Assert.Equal(late, lags[1]!.Value.Frames, 1.0);
        Assert.Equal([1, 1], signs);
    }

    [Theory]
    [InlineData(1, -1)]
    [InlineData(0.2, null)]
    public void Where_a_file_goes_with_the_mix_and_what_it_leaves_against_it_only_much_of_the_mix_tells(float loud, int? sign)
    {
        // A tone is upside down in its file, and the noise of another is heard there upright at the same place; a third noise has no file.
        var (noise, tone, mix, file) = (Noise(3), Swelling(150).Select(s => loud * s).ToArray(), Noise(9).Select(s => 0.1f * s).ToArray(), new float[Length]);
        SoxTake.Add(mix, noise, 0, 1);
        SoxTake.Add(mix, tone, 0, 1);
        SoxTake.Add(file, tone, 0, -1);
        SoxTake.Add(file, noise, 0, loud);
        var (_, lags, signs, _) = new InReference(
            new Samples(mix), [new Samples(noise), new Samples(file)], new bool[2], [Beginnings, Beginnings], [0, 0], default).Of((0, 0), []);
        Assert.Equal([1, sign], signs);
        Assert.Equal([1, sign ?? 0], lags.Select(l => l!.Value.Sign));
    }

    [Fact]
    public void What_bleeds_into_a_file_that_is_not_in_the_mix_tells_nothing_of_where_it_lies()
    {
        var (noise, mix, file) = (Noise(3), Noise(9).Select(s => 0.3f * s).ToArray(), new float[Length]);
        SoxTake.Add(mix, noise, 0, 1);
        SoxTake.Add(file, Swelling(150), 0, 1);
        SoxTake.Add(file, noise, 400, 0.5);
        var (_, lags, signs, _) = new InReference(
            new Samples(mix), [new Samples(noise), new Samples(file)], new bool[2], [Beginnings, Beginnings], [null, null], default).Of((0, 0), []);
        Assert.Equal(0, lags[0]!.Value.Frames, 1e-3);
        Assert.Null(lags[1]);
        Assert.Equal([1, null], signs);
    }

    [Theory]
    [InlineData(0.7, null, null)]
    [InlineData(0.7, 365, 400)] // by its notes as well, however unsure
    [InlineData(0.7, 360, null)]
    [InlineData(0.7, 440, null)]
    [InlineData(0.2, null, 400)]
    public void A_file_lies_far_from_its_take_only_where_much_of_the_mix_is_explained_by_it_there(double own, int? begins, int? late)
    {
        // What the file shares with the mix is half of the mix, the rest has no file: by itself the file explains a half or nine tenths of what all leave.
        var (shared, mix, file) = (Noise(4), Noise(9), new float[Length]);
        SoxTake.Add(mix, shared, 0, 1);
        SoxTake.Add(mix, Noise(3), 0, 1);
        SoxTake.Add(file, shared, 400, 1);
        SoxTake.Add(file, Noise(5), 0, own);
        var (_, lags, _, _) = new InReference(
            new Samples(mix), [new Samples(Noise(3)), new Samples(file)], new bool[2], [Beginnings, Beginnings], [0, null], default)
        {
            Begins = [0, (double?)begins / Rate],
        }.Of((0, 0), []);
        Assert.Equal(late, lags[1] is { } lag ? (int?)Math.Round(lag.Frames) : null);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(-1)]
    public void Of_two_microphones_of_one_drum_the_softer_is_told_by_itself(int sign)
    {
        // The one below is ten times as loud in the mix, hears the drum six frames later and upside down, and darker.
        var (top, under) = (Noise(1).Select(s => 0.1f * s).ToArray(), new float[Length]);
        SoxTake.Add(under, Dark(Noise(1)), 6, -1);
        var (_, lags, signs) = Placed(0, (Noise(2), 0, 1), (top, 0, sign), (under, 0, 1));
        Assert.Equal([1, sign, 1], signs);
        Assert.Equal([0, 0, 0], lags);
    }

    [Theory]
    [InlineData(1, 0.5, 1)]
    [InlineData(1, -0.5, 1)]
    [InlineData(0.6, -0.5, null)]
    public void What_bleeds_in_and_makes_good_what_another_file_lacks_does_not_draw_a_file_to_it(double level, double bleed, int? sign)
    {
        // One file clips; what it has lost is heard in a file of held tones, darker and 348 frames later than in the mix.
        var (drums, tone, hat, mix, held) = (Noise(3), Swelling(150), Noise(4), new float[Length], new float[Length]);
        SoxTake.Add(mix, drums, 0, 1);
        SoxTake.Add(mix, tone, 0, level);
        SoxTake.Add(mix, hat, 0, 0.3);
        SoxTake.Add(held, tone, 0, 1);
        SoxTake.Add(held, Dark(drums), 348, bleed);
        IMonoSound clipped = new Samples([.. drums.Select(s => Math.Clamp(s, -0.07f, 0.07f))]);
        var (_, lags, signs, _) = new InReference(
            new Samples(mix), [clipped, new Samples(held), new Samples(hat)], new bool[3], [Beginnings, Beginnings, Beginnings], [0, null, 0], default).Of((0, 0), []);
        Assert.Equal([1, sign, 1], signs);
        Assert.Equal(sign is null ? null : 0, lags[1] is { } lag ? (double?)Math.Round(lag.Frames) : null);
    }

    [Fact]
    public void What_a_far_microphone_hears_later_does_not_draw_the_take_to_it()
    {
        // Each drum is in the mix twice, by itself and by a microphone that stands four metres away; the sum of all was found at the latter.
        var drums = Enumerable.Range(1, 3).Select(Noise).ToList();
        var room = new float[Length];
        drums.ForEach(d => SoxTake.Add(room, d, 572, 0.6));
        var (place, lags, signs) = Placed(-572, [.. drums.Select(d => (d, 0, 1)), (room, 0, 1)]);
        Assert.Equal(0, place);
        Assert.Equal([0, 0, 0, 0], lags);
        Assert.Equal([1, 1, 1, 1], signs);
    }

    [Theory]
    [InlineData(-185)]
    [InlineData(240)]
    public void Where_the_one_file_with_notes_is_late_the_others_tell_it(int late)
    {
        // The take was laid by the only notes there are, and those are late themselves.
        var (place, lags, signs) = Placed(late, (Noise(1), late, 1, null, 0), (Noise(2), 0, 1, null, null), (Noise(3), 0, 1, null, null), (Noise(4), 0, -1, null, null));
        Assert.Equal(0, place);
        Assert.Equal([late, 0, 0, 0], lags);
        Assert.Equal([1, 1, 1, -1], signs);
    }

    [Fact]
    public void A_take_of_what_is_held_lies_where_all_of_it_explains_most_and_no_period_beside_it()
    {
        // A tone that hardly changes lies nearly as well where the take was laid, two periods early; under hiss, the other tells that both lie where it does.
        var (one, other, mix, random) = (new float[Length], Swelling(190), new float[Length], new Random(4));
        for (var i = 0; i < Length; i++)
        {
            one[i] = (float)(0.2 * (1 + (0.2 * Math.Sin(2 * Math.PI * i / Length))) * Enumerable.Range(1, 8).Sum(k => Math.Sin((2 * Math.PI * k * i / 240) + (k * k)) / k));
        }

        SoxTake.Add(mix, one, 0, 1);
        SoxTake.Add(mix, other, 0, 1);
        IMonoSound Hissing(float[] sound, int sign) => new Samples(Array.ConvertAll(sound, s => (float)((sign * s) + (0.02 * ((2 * random.NextDouble()) - 1)))));
        var (place, _, signs, _) = new InReference(new Samples(mix), [Hissing(one, 1), Hissing(other, -1)], new bool[2], [Beginnings, Beginnings], [null, null], default).Of((-480, 0), []);
        Assert.Equal(0, place.Start, 1.0);
        Assert.Equal([1, -1], signs);
    }

    [Theory]
    [InlineData(0, 176)]
    [InlineData(176, 0)]
    public void Of_two_places_at_which_as_many_lie_the_take_lies_at_that_near_it(int one, int other)
    {
        var (place, lags, _) = Placed(6, (Noise(1), one, 1), (Noise(2), one, 1), (Noise(3), other, 1), (Noise(4), other, 1));
        Assert.Equal(0, place);
        Assert.Equal([one, one, other, other], lags);
    }

    [Fact]
    public void Two_microphones_of_one_room_of_which_one_is_late_by_itself_do_not_stand_for_each_other()
    {
        // The far one hears nearly what the near one does, 434 frames later: alone it lies in the mix where the louder near one is.
        var drums = Enumerable.Range(1, 3).Select(Noise).ToList();
        var (near, far) = (new float[Length], new float[Length]);
        foreach (var drum in drums)
        {
            SoxTake.Add(near, Dark(drum), 0, 3);
            SoxTake.Add(near, drum, 0, 0.6);
            SoxTake.Add(far, Dark(drum), 434, 2);
            SoxTake.Add(far, drum, 434, 0.3);
        }

        var (place, lags, signs) = Placed(0, [.. drums.Select(d => (d, 0, 1)), (near, 185, 1), (far, 0, 1)]);
        Assert.Equal(0, place);
        Assert.Equal([0, 0, 0, 185, 0], lags);
        Assert.Equal([1, 1, 1, 1, 1], signs);
    }

    [Fact]
    public void A_room_that_is_louder_than_its_drums_does_not_draw_the_take_to_it()
    {
        // Each drum is clearer where the room begins than where it is itself, but there most of the mix, which is the room's, would be explained by nothing.
        var random = new Random(5);
        var drums = Enumerable.Range(1, 3).Select(Noise).ToList();
        var room = new float[Length];
        foreach (var drum in drums)
        {
            SoxTake.Add(room, drum, 572, 1);
            for (var echo = 0; echo < 40; echo++)
            {
                SoxTake.Add(room, drum, 700 + random.Next(4000), random.Next(2) == 0 ? 0.4 : -0.4);
            }
        }

        var (place, _, signs) = Placed(0, [.. drums.Select(d => (d.Select(s => 0.3f * s).ToArray(), 0, 1)), (room, 0, 1)]);
        Assert.Equal(0, place);
        Assert.Equal([1, 1, 1, 1], signs);
    }

    [Theory]
    [InlineData(3, false, 0)]
    [InlineData(2, false, -572)]
    [InlineData(3, true, -572)]
    public void A_room_in_which_most_are_found_draws_the_take_only_where_not_two_more_are_clear_elsewhere(int near, bool dark, int told)
    {
        // Four soft drums are found in the room, which is in no file, and only one of them is clear there; it hears none of those that are loud.
        // Where these are dark they explain most of the mix, but less of its differences than the bright one does.
        var random = new Random(5);
        var soft = Enumerable.Range(1, 4).Select(Noise).ToList();
        var loud = Enumerable.Range(11, near).Select(seed => dark ? Dark(Noise(seed)) : Noise(seed)).ToList();
        var mix = new float[Length];
        foreach (var drum in soft)
        {
            SoxTake.Add(mix, drum, 0, 0.1);
            SoxTake.Add(mix, drum, 572, 0.6);
            for (var echo = 0; echo < 40; echo++)
            {
                SoxTake.Add(mix, drum, 700 + random.Next(4000), random.Next(2) == 0 ? 0.2 : -0.2);
            }
        }

        SoxTake.Add(mix, soft[0], 572, 3);
        loud.ForEach(d => SoxTake.Add(mix, d, 0, dark ? 8 : 3));
        var (place, _, _, _) = new InReference(
            new Samples(mix),
            [.. soft.Concat(loud).Select(d => new Samples(d))],
            new bool[4 + near],
            [.. soft.Concat(loud).Select(_ => Beginnings)],
            [.. soft.Concat(loud).Select(_ => (double?)0)],
            default).Of((-279, 0), []);
        Assert.Equal(told, place.Start);
    }

    [Fact]
    public void What_is_in_the_mix_alone_and_what_is_late_by_itself_bend_no_line()
    {
        const double Slope = 150e-6;
        var mix = new float[Length];
        foreach (var sound in new[] { Struck(1), Struck(2), Struck(3), Noise(3) })
        {
            SoxTake.Add(mix, sound, 0, 1);
        }

        var late = new float[Length];
        SoxTake.Add(late, Struck(3, Slope), 150, 1);
        var (place, lags, _, _) = new InReference(
            new Samples(mix), [new Samples(Struck(1, Slope)), new Samples(Struck(2, Slope)), new Samples(late)], new bool[3], [Beginnings, Beginnings, Beginnings], [null, null, null], default)
            .Of((0.6, Slope - 3e-6), [.. Beginnings.Select(o => (long)(o.Seconds * Rate))]);
        Assert.Equal(Slope, place.Slope, 0.2e-6);
        Assert.Equal(0, place.Start, 0.2);
        Assert.All(lags.Zip([0, 0, 150.0]), l => Assert.Equal(l.Second, l.First!.Value.Frames, 1.0));
    }

    [Theory]
    [InlineData(151e-6, 3e-6, true)]
    [InlineData(202e-6, 3e-6, false)] // as the line does: then there is nothing to ask
    [InlineData(151e-6, 0, false)] // unknown
    public void Where_most_is_held_the_line_of_what_is_struck_is_tried_where_its_notes_tell_another_drift(double drift, double spread, bool mended) =>
        Assert.Equal(mended, IsMended(52e-6, new(0, drift, spread)));

    [Theory]
    [InlineData(12e-6, true)]
    [InlineData(-12e-6, true)]
    [InlineData(52e-6, false)] // 26 frames at either end
    public void A_line_that_crosses_the_true_one_is_turned_to_it_by_where_the_files_begin(double turned, bool mended) => Assert.Equal(mended, IsMended(turned, null));

    /// <summary>Whether a line that crosses the true one in the middle of 20 s is turned to it: two tones that are held, and one that is struck.</summary>
    private static bool IsMended(double turned, TakeTime? notes)
    {
        const double Slope = 150e-6;
        var mix = new float[Length];
        foreach (var sound in new[] { Swelling(150), Swelling(233), Dark(Struck(1)) })
        {
            SoxTake.Add(mix, sound, 0, 1);
        }

        var (place, _, _, _) = new InReference(
            new Samples(mix), [new Samples(Swelling(150, Slope)), new Samples(Swelling(233, Slope)), new Samples(Dark(Struck(1, Slope)))], new bool[3], [Beginnings, Beginnings, Beginnings], [null, null, 0], default)
        {
            Notes = notes,
        }.Of((-turned * Length / 2, Slope + turned), [.. Beginnings.Select(o => (long)(o.Seconds * Rate))]);
        return Math.Abs(place.Slope - Slope) < 1e-6;
    }

    [Theory]
    [InlineData(0, 0.8, 2e-6)]
    [InlineData(0, -2.7, 6e-6)]
    [InlineData(0, 0.8, 6e-6)]
    [InlineData(5e-6, 0, 5e-6)]
    public void A_line_that_is_slanted_a_little_is_made_level_only_where_no_clock_drifts(double slope, double told, double slanted)
    {
        // Two held tones and what is struck, one of them late by itself; over 20 s, 5 millionths are 5 frames.
        var (held, also, late, mix) = (Swelling(150, slope), Swelling(233, slope), new float[Length], new float[Length]);
        SoxTake.Add(late, Struck(1, slope), 150, 1);
        foreach (var sound in new[] { Swelling(150), Swelling(233), Struck(1) })
        {
            SoxTake.Add(mix, sound, 0, 1);
        }

        var (place, lags, signs, _) = new InReference(
            new Samples(mix), [new Samples(held), new Samples(also), new Samples(late)], new bool[3], [Beginnings, Beginnings, Beginnings], [null, null, null], default).Of((told, slanted), []);
        Assert.Equal(slope, place.Slope);
        Assert.Equal(0, place.Start);
        Assert.All(lags.Zip([0, 0, 150.0]), l => Assert.Equal(l.Second, l.First!.Value.Frames, 1.0));
        Assert.Equal([1, 1, 1], signs);
    }

    [Theory]
    [InlineData(1, -2.7)]
    [InlineData(2, 0.8)]
    public void A_level_line_lies_where_the_middle_of_a_slanted_one_does_and_where_most_files_do(int count, double told)
    {
        var files = Enumerable.Range(1, count).Select(i => Struck(i)).ToList();
        var mix = new float[Length];
        files.ForEach(f => SoxTake.Add(mix, f, 0, 1));
        var (place, lags, _, _) = new InReference(new Samples(mix), [.. files.Select(f => new Samples(f))], new bool[count], [.. files.Select(_ => Beginnings)], new double?[count], default).Of((told, 6e-6), []);
        Assert.Equal((0, 0), place);
        Assert.All(lags, l => Assert.Equal(0, l!.Value.Frames, 0.3));
    }

    [Theory]
    [InlineData(0, 0, false)]
    [InlineData(150e-6, 0, false)]
    [InlineData(0, 0.05, false)]
    [InlineData(0, 0.12, false)]
    [InlineData(0, 0, true)]
    public void Where_nothing_on_the_take_is_heard_in_the_mix_it_lies_with_what_surely_is(double slope, double noise, bool known)
    {
        // The sum of both was found with what is no part of the mix; what is heard may be early by itself, as its notes say.
        var (other, mix, random) = (new float[Length], Struck(1), new Random(7));
        SoxTake.Add(other, Struck(2, slope), 318, 1);
        SoxTake.Add(mix, [.. mix.Select(_ => (float)(noise * ((2 * random.NextDouble()) - 1)))], 0, 1);
        var (place, lags, signs, _) = new InReference(
            new Samples(mix), [new Samples(Struck(1, slope)), new Samples(other)], new bool[2], [Beginnings, Beginnings], [known ? -318.0 / Rate : null, null], default)
            .Of((318, slope), [.. Beginnings.Select(o => (long)(o.Seconds * Rate))]);
        var stays = known || noise > 0.1;
        Assert.Equal(stays ? 318 : 0, place.Start, 1.0);
        Assert.Equal(stays ? -318 : 0, lags[0]!.Value.Frames, 1.0);
        Assert.Equal([1, null], signs);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(150e-6)]
    public void Where_what_is_clear_at_once_lies_by_itself_the_take_lies_with_what_is_settled(double slope)
    {
        // What is struck is 396 frames late, and the sum of all was found with it; two held tones go with themselves at many places.
        var (held, also, struck, mix) = (Swelling(150, slope), Swelling(233, slope), new float[Length], new float[Length]);
        SoxTake.Add(struck, Struck(1, slope), 396, 1);
        SoxTake.Add(mix, Swelling(150), 0, 1);
        SoxTake.Add(mix, Swelling(233), 0, 1);
        SoxTake.Add(mix, Struck(1), 0, 1);
        var (place, lags, _, _) = new InReference(
            new Samples(mix), [new Samples(held), new Samples(also), new Samples(struck)], new bool[3], [Beginnings, Beginnings, Beginnings], [null, null, null], default)
            .Of((396, slope), [.. Beginnings.Select(o => (long)(o.Seconds * Rate))]);
        Assert.Equal(0, place.Start, 1.0);
        Assert.All(lags.Zip([0, 0, 396.0]), l => Assert.Equal(l.Second, l.First!.Value.Frames, 2.0));
    }

    [Fact]
    public void A_file_without_beginnings_and_a_copy_are_no_part_of_the_mix()
    {
        var (sound, silence) = (Noise(1), new float[Length]);
        var (place, lags, signs, _) = new InReference(
            new Samples(sound), [new Samples(sound), new Samples(silence), null, new Samples(sound)], [false, false, false, true], [Beginnings, [], [], Beginnings], [null, null, null, null], default).Of((0, 0), []);
        Assert.Equal((0, 0), place);
        Assert.Equal([0, null, null, 0], lags.Select(l => l is { } lag ? (double?)Math.Round(lag.Frames, 3) : null));
        Assert.Equal([1, null, null, null], signs);
    }

    private static ImmutableArray<Onset> Beginnings { get; } = [.. Enumerable.Range(1, 17).Select(i => new Onset(i * 1.1, 1))];

    private static (double Place, IEnumerable<double?> Lags, int?[] Signs) Placed(int told, params (float[] Sound, int Late, int Sign)[] files) =>
        Placed(told, [.. files.Select(f => (f.Sound, f.Late, f.Sign, (float[]?)null, (int?)null))]);

    private static (double Place, IEnumerable<double?> Lags, int?[] Signs) Placed(int told, params (float[] Sound, int Late, int Sign, float[]? Bleed, int? Known)[] files)
    {
        var mix = new float[Length];
        foreach (var (sound, _, _, _, _) in files)
        {
            SoxTake.Add(mix, sound, 0, 1);
        }

        var moved = files.Select((f, i) =>
        {
            var file = new float[Length];
            SoxTake.Add(file, f.Sound, f.Late, f.Sign);
            SoxTake.Add(file, f.Bleed ?? [], 400 + (130 * i), 0.2);
            return (IMonoSound)new Samples(file);
        }).ToList();
        var (place, lags, signs, _) = new InReference(new Samples(mix), moved, new bool[files.Length], [.. files.Select(_ => Beginnings)], [.. files.Select(f => (double?)f.Known / Rate)], default).Of((told, 0), []);
        Assert.Equal(0, place.Slope);
        return (place.Start, lags.Select(l => l is { } lag ? (double?)Math.Round(lag.Frames) : null), signs);
    }

    private static float[] Noise(int seed)
    {
        var random = new Random(seed);
        var noise = new float[Length];
        foreach (var start in Beginnings.Select(o => (int)(o.Seconds * Rate)))
        {
            for (var (i, level) = (0, 0.3); i < Rate / 2; i++, level *= 0.9995)
            {
                noise[start + i] = (float)(level * ((2 * random.NextDouble()) - 1));
            }
        }

        return noise;
    }

    private static float[] Dark(float[] sound)
    {
        var low = 0.0;
        return [.. sound.Select(s => (float)(low += 0.3 * (s - low)))];
    }

    private static float[] Swelling(double pitch, double slope = 0)
    {
        var tone = new float[Length];
        foreach (var (start, step) in Beginnings.Select((o, i) => ((int)(o.Seconds * Rate), 5 * i % 12)))
        {
            for (var i = (int)Math.Ceiling(start * (1 + slope)); i < (start + Rate) * (1 + slope); i++)
            {
                var at = (i / (1 + slope)) - start;
                var swell = Math.Sin(Math.PI * at / Rate);
                tone[i] = (float)(0.1 * swell * Enumerable.Range(1, 8).Sum(k => Math.Sin((2 * Math.PI * pitch * Math.Pow(2, step / 12.0) * k * at / Rate) + (k * k)) / k));
            }
        }

        return tone;
    }

    /// <summary>A bar of metal, struck at each beginning, told of any time, so that a slower clock needs no filter.</summary>
    private static float[] Struck(int seed, double slope = 0)
    {
        var random = new Random(seed);
        var pitches = Enumerable.Range(0, 24).Select(_ => 150 * Math.Pow(2, 5 * random.NextDouble())).ToArray();
        var tone = new float[Length];
        foreach (var start in Beginnings.Select(o => (int)(o.Seconds * Rate)))
        {
            for (var i = (int)Math.Ceiling(start * (1 + slope)); i < (start + (Rate / 3)) * (1 + slope); i++)
            {
                var at = (i / (1 + slope)) - start;
                tone[i] = (float)(0.05 * Math.Exp(-at / 3000) * pitches.Sum(p => Math.Sin((2 * Math.PI * p * at / Rate) + p)));
            }
        }

        return tone;
    }
}

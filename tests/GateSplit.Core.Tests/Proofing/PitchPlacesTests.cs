using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Where a take of held notes lies, by its pitches: on sines that have no beginnings.</summary>
public sealed class PitchPlacesTests
{
    private const int Rate = 16000;

    // Lengths that never come again in the same order.
    private static readonly double[] Lengths = [0.5, 1, 0.75, 0.5, 1.25, 0.5, 0.5, 1, 0.25, 0.75, 1.5, 0.5, 0.75, 1, 0.5, 0.25];
    private static readonly int[] Steps = [0, 4, 7, 2, 9, 5, 11, 4, 0, 7, 2, 5, 9, 4, 7, 11];
    private static readonly Part Lead = Bound("Lead", 60, 1);
    private static readonly Part Bass = Bound("Bass", 41, 7);

    [Theory]
    [InlineData(0)]
    [InlineData(-0.73)]
    [InlineData(2.45)]
    [InlineData(-2.45)]
    public void A_take_lies_where_its_pitches_are_held(double late)
    {
        Assert.Equal(late, PitchPlaces.Of([Sounding(Lead, late)], [Lead], CancellationToken.None)[0], 0.021);
        Assert.Equal(late, PitchPlaces.Of([null, Sounding(Bass, late), Sounding(Lead, late)], [Lead, Bass], CancellationToken.None)[0], 0.021);
    }

    [Fact]
    public void A_song_that_begins_late_is_looked_for_where_it_begins()
    {
        var far = Later(Lead, 50);
        Assert.Equal(-0.4, PitchPlaces.Of([Sounding(far, -0.4)], [far], CancellationToken.None)[0], 0.021);
    }

    [Fact]
    public void Files_that_break_off_tell_as_much_as_they_hold()
    {
        var sound = Sounding(Lead, 0.3);
        var half = new Samples([.. Enumerable.Range(0, 5 * Rate).Select(i => Read(sound, i))], Rate);
        Assert.Equal(0.3, PitchPlaces.Of([half], [Lead], CancellationToken.None)[0], 0.03);
        Assert.Equal(0.3, PitchPlaces.Of([half, Sounding(Bass, 0.3)], [Lead, Bass], CancellationToken.None)[0], 0.021);
        Assert.Empty(PitchPlaces.Of([new Samples(new float[Rate / 2], Rate)], [Lead], CancellationToken.None));
    }

    [Fact]
    public void Where_nothing_is_held_or_heard_there_is_no_place()
    {
        Assert.Empty(PitchPlaces.Of([Sounding(Lead, 0)], [Lead with { Tones = [] }], CancellationToken.None));
        Assert.Empty(PitchPlaces.Of([null], [Lead], CancellationToken.None));
        Assert.Empty(PitchPlaces.Of([new Samples(new float[20 * Rate], Rate)], [Lead], CancellationToken.None));
    }

    [Fact]
    public void The_best_of_several_places_is_the_first_and_none_is_told_twice()
    {
        var places = PitchPlaces.Of([Sounding(Lead, 0.5)], [Lead], CancellationToken.None);
        Assert.InRange(places.Count, 1, 3);
        Assert.Equal(0.5, places[0], 0.021);
        Assert.All(places.SelectMany((one, i) => places.Skip(i + 1).Select(other => Math.Abs(one - other))), apart => Assert.True(apart > 0.1));
    }

    private static Part Bound(string name, int key, int first)
    {
        var (tones, at) = (new List<Tone>(), 1.0);
        for (var i = 0; i < 2 * Lengths.Length; i++)
        {
            var length = Lengths[(i + first) * 3 % Lengths.Length];
            tones.Add(new(at, at + length, key + Steps[(i + first) * 5 % Steps.Length]));
            at += length;
        }

        return new(name, [.. tones.Select(t => t.Start)], true) { Tones = [.. tones] };
    }

    private static Part Later(Part part, double by) => part with
    {
        Notes = [.. part.Notes.Select(n => n + by)],
        Tones = [.. part.Tones.Select(t => t with { Start = t.Start + by, End = t.End + by })],
    };

    private static Samples Sounding(Part part, double late)
    {
        var sound = new float[(int)((part.Tones[^1].End + 3) * Rate)];
        foreach (var tone in part.Tones)
        {
            for (var i = Math.Max(0, (int)((tone.Start + late) * Rate)); i < (tone.End + late) * Rate; i++)
            {
                sound[i] += (float)(0.3 * Math.Sin(2 * Math.PI * 440 * Math.Pow(2, (tone.Key - 69) / 12.0) * i / Rate));
            }
        }

        return new(sound, Rate);
    }

    private static float Read(IMonoSound sound, int at)
    {
        var one = new float[1];
        sound.Read(at, one);
        return one[0];
    }
}

using System.Collections.Immutable;
using GateSplit.Core.Proofing;

namespace GateSplit.Core.Tests.Proofing;

public sealed class TakeTimeTests
{
    [Theory]
    [InlineData(0.3, 0, true)]
    [InlineData(0.349, 0, true)]
    [InlineData(0.351, 0, false)]
    [InlineData(0.251, 0, true)]
    [InlineData(0.249, 0, false)]
    [InlineData(0.3, 49, true)]
    [InlineData(0.3, 51, false)]
    [InlineData(0.3, -49, true)]
    [InlineData(0.3, -51, false)]
    [InlineData(0.3, 470, false)]
    public void A_place_found_by_something_else_may_be_the_same_if_start_and_drift_are(double offset, double ppm, bool like) =>
        Assert.Equal(like, new TakeTime(0.3, 20e-6, 2e-6).IsLike(offset, (20 + ppm) * 1e-6));

    [Theory]
    [InlineData(0, 900, true)]
    [InlineData(2, 49, true)]
    [InlineData(2, 51, false)]
    [InlineData(20, 99, true)]
    [InlineData(20, 101, false)]
    public void A_drift_that_notes_hardly_tell_rules_out_less_and_one_they_do_not_tell_nothing(double spreadPpm, double ppm, bool like) =>
        Assert.Equal(like, new TakeTime(0, 0, spreadPpm * 1e-6).IsLike(0, ppm * 1e-6));

    [Theory]
    [InlineData(0.74, 0.74)] // what swells begins before it is heard, or behind
    [InlineData(0.65, 0.65)]
    [InlineData(0.77, 0.7)] // too far to be meant
    [InlineData(null, 0.7)]
    public void Near_a_place_that_is_known_about_a_take_lies_where_most_beginnings_meet_a_note(double? begins, double told)
    {
        double[] notes = [.. Enumerable.Range(0, 20).Select(i => 1 + (1.3 * i) + (0.05 * (i % 3)))];
        ImmutableArray<Onset> onsets = begins is { } late ? [.. notes.SelectMany((n, i) => i % 2 == 0 || late > 0.76 ? [new Onset(n + late, 1)] : new[] { new Onset(n + 0.641 + (0.031 * (i % 4)), 0.9), new Onset(n + late, 1) }).OrderBy(o => o.Seconds)] : [];
        Assert.Equal(told, TakeTime.Near([onsets], [new Part("Pad", [.. notes], true)], [0.7]).First().Offset, 0.004);
    }

    [Theory]
    [InlineData(0.63, 0.63)]
    [InlineData(0.53, 0.53)]
    [InlineData(0.51, 0.58)] // too far to be meant
    public void Pitches_that_swell_place_a_take_too_late_so_that_it_is_looked_for_earlier_as_well(double begins, double told)
    {
        double[] notes = [.. Enumerable.Range(0, 20).Select(i => 1 + (1.3 * i) + (0.05 * (i % 3)))];
        var near = TakeTime.Near([[.. notes.Select(n => new Onset(n + begins, 1))]], [new Part("Pad", [.. notes], true)], [0.7]).ToList();
        Assert.Equal(2, near.Count);
        Assert.Equal(told, near[1].Offset, 0.004);
    }
}

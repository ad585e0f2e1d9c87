using System.Collections.Immutable;
using GateSplit.Core.Proofing;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>What is known of files that lie far beside their take, with beginnings made up so that the truth is known.</summary>
public sealed class ByLagTests
{
    private static readonly TakeTime Take = new(0.4, 80e-6);
    private static readonly Part Kick = new("Kick", [.. Enumerable.Range(0, 64).Select(i => 1 + (0.5 * i))], false);
    private static readonly Part Snare = Uneven("Snare", 1);
    private static readonly Part Tom = Uneven("Tom", 2);

    [Theory]
    [InlineData(0.0114)]
    [InlineData(0.031)]
    [InlineData(-0.055)]
    [InlineData(1.234)]
    [InlineData(-2.4)]
    public void A_file_that_is_late_by_itself_holds_what_it_plays_then(double late)
    {
        var found = Told([Heard(Snare, late)], [0], [Snare, Tom])[0];
        Assert.Equal((0, 40), (found.Part, found.Hits));
        Assert.Equal(late, found.Offset!.Value, 1e-6);
        Assert.All(found.Offsets, o => Assert.Equal(late, o, 1e-6));
        Assert.InRange(found.Certainty, 0.9, 1);
    }

    [Theory]
    [InlineData(0.031, 0)]
    [InlineData(1.3, null)] // even notes lie alike after every one
    public void Even_notes_tell_it_only_where_the_nearest_is_meant(double late, int? told) => Assert.Equal(told, Told([Heard(Kick, late)], [0], [Kick, Snare])[0].Part);

    [Fact]
    public void Two_that_are_exchanged_and_late_are_told()
    {
        var told = Told([Heard(Tom, 0.02), Heard(Snare, 0.03)], [0, 1], [Snare, Tom]);
        Assert.Equal([1, 0], told.Select(t => t.Part));
        Assert.Equal([0.02, 0.03], told.Select(t => Math.Round(t.Offset!.Value, 6)));
    }

    [Fact]
    public void What_another_holds_is_not_asked_for()
    {
        var known = Identity.None with { Part = 0 };
        var told = ByLag.Of([Heard(Snare, 0), Heard(Snare, 0.03)], [Snare, Tom], [known, Identity.None], [0, 1], Take);
        Assert.Same(known, told[0]);
        Assert.Null(told[1].Part);
    }

    [Fact]
    public void Neither_what_is_held_nor_what_hears_all_is_asked_for()
    {
        Assert.Null(Told([Heard(Snare, 0.03)], [0], [Snare with { Held = true }])[0].Part);
        Part Keyed(Part part, params int[] keys) => part with { Keys = [.. keys.Select(k => (9, k))] };
        Assert.Null(Told([Heard(Snare, 0.03)], [0], [Keyed(Snare, 1, 2), Keyed(Tom, 2)])[0].Part);
        Assert.Equal(0, Told([Heard(Snare, 0.03)], [0], [Keyed(Snare, 1), Keyed(Tom, 2)])[0].Part);
    }

    [Theory]
    [InlineData(5, null)] // as many may meet by chance
    [InlineData(6, 0)]
    public void A_few_beginnings_tell_nothing(int count, int? told)
    {
        var few = Snare with { Notes = Snare.Notes[..count] };
        Assert.Equal(told, Told([Heard(few, 0.03)], [0], [few])[0].Part);
    }

    [Fact]
    public void What_plays_something_else_is_none_of_them()
    {
        for (var seed = 10; seed < 30; seed++)
        {
            Assert.Null(Told([Heard(Uneven("Other", seed), 0)], [0], [Snare, Tom, Kick])[0].Part);
        }
    }

    private static Part Uneven(string name, int seed)
    {
        var random = new Random(seed);
        return new(name, [.. Enumerable.Range(0, 40).Select(i => 1 + (0.8 * i) + (0.6 * random.NextDouble()))], false);
    }

    private static ImmutableArray<Onset> Heard(Part part, double late) => [.. part.Notes.Select(n => new Onset(Take.Of(n) + late, 1))];

    private static ImmutableArray<Identity> Told(IReadOnlyList<ImmutableArray<Onset>> tracks, IReadOnlyList<int?> named, IReadOnlyList<Part> parts) =>
        ByLag.Of(tracks, parts, [.. tracks.Select(_ => Identity.None)], named, Take);
}

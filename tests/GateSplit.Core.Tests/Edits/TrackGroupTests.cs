using CsCheck;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Edits;

/// <summary>Groups of tracks: at most one that sums a track, any number that only set levels, and sums that feed others.</summary>
public sealed class TrackGroupTests
{
    private static readonly TrackGroupId Drums = new("g1");
    private static readonly TrackGroupId Low = new("g2");
    private static readonly TrackGroupId All = new("g3");
    private static readonly TrackId T1 = new("t1");

    /// <summary>The kit with a sum, a level-only group, and another sum.</summary>
    private static Split Kit { get; } = Sessions.After(Sessions.Kit.Split, new AddTrackGroup("Drums", true), new AddTrackGroup("Low", false), new AddTrackGroup("All", true));

    [Fact]
    public void A_track_is_summed_by_one_group_and_turned_up_and_down_by_any_number()
    {
        var split = Sessions.After(Kit, new AddTrackGroup("Close", false), new PutInGroup(T1, Low), new PutInGroup(T1, Drums), new PutInGroup(T1, new("g4")), new PutInGroup(T1, Low));
        Assert.Equal((Drums, "g2, g4"), (split.SumOf(split.Track(T1)!)!.Id, string.Join(", ", split.LevelsOf(split.Track(T1)!).Select(g => g.Id))));
        var moved = Sessions.After(split, new PutInGroup(T1, All));
        Assert.Equal((All, 2), (moved.SumOf(moved.Track(T1)!)!.Id, moved.LevelsOf(moved.Track(T1)!).Count()));
        var out1 = Sessions.After(moved, new TakeOutOfGroup(T1, Low));
        Assert.Equal((All, "g4"), (out1.SumOf(out1.Track(T1)!)!.Id, string.Join(", ", out1.Track(T1)!.LevelGroups)));
        var out2 = Sessions.After(out1, new TakeOutOfGroup(T1, null));
        Assert.Equal((null, "g4"), (out2.SumOf(out2.Track(T1)!), string.Join(", ", out2.Track(T1)!.LevelGroups)));
        Assert.False(new PutInGroup(T1, new("g9")).Apply(split).Ok);
        Assert.NotNull(SplitRules.Trouble(split.With(split.Track(T1)! with { LevelGroups = [Drums] }))); // a sum is no level-only group
        Assert.NotNull(SplitRules.Trouble(split.With(split.Track(T1)! with { LevelGroups = [Low, Low] })));
    }

    [Fact]
    public void A_document_in_which_one_field_named_any_group_means_the_same()
    {
        var old = Kit.With(Kit.Track(T1)! with { GroupId = Low });
        Assert.Null(SplitRules.Trouble(old));
        Assert.Equal((null, "g2"), (old.SumOf(old.Track(T1)!), string.Join(", ", old.LevelsOf(old.Track(T1)!).Select(g => g.Id))));
        var now = Sessions.After(old, new PutInGroup(T1, Drums)).Track(T1)!;
        Assert.Equal((Drums, "g2"), (now.GroupId, string.Join(", ", now.LevelGroups)));
    }

    [Fact]
    public void Levels_of_all_groups_multiply_and_the_last_sum_says_where_it_goes()
    {
        var split = Sessions.After(
            Kit,
            new PutInGroup(T1, Drums),
            new PutInGroup(T1, Low),
            new SetTrackLevel(T1, new Decibels(-1)),
            new SetTrackGroup(Kit.TrackGroup(Drums)! with { LevelDb = new(-2), ParentId = All }),
            new SetTrackGroup(Kit.TrackGroup(Low)! with { LevelDb = new(-4) }),
            new SetTrackGroup(Kit.TrackGroup(All)! with { LevelDb = new(-8), Bus = new InputRef(new BankId("buses"), 3) }));
        var track = split.Track(T1)!;
        Assert.Equal(new Decibels(-15), split.MixLevel(track));
        Assert.Equal(new InputRef(new BankId("buses"), 3), split.OutputOf(track));
        Assert.Equal(["Drums", "All"], split.SumsOf(track).Select(g => g.Name));

        // What listens on that bus hears the track 15 dB down, on the two sides as it is panned.
        var heard = Sessions.After(split, new AddTrack(new Track(new TrackId("t90"), "Sum", Width.Stereo) { Input = new InputRef(new BankId("buses"), 3) }));
        var feed = Assert.Single(SplitSignal.Of(heard).BusFeeds, f => f.FromTrackId == T1);
        Assert.Equal(Math.Pow(10, -15 / 20.0) / Math.Sqrt(2), feed.Gain.LL, 12);
    }

    [Fact]
    public void Sums_never_feed_themselves()
    {
        var nested = Sessions.After(Kit, new SetTrackGroup(Kit.TrackGroup(Drums)! with { ParentId = All }));
        Assert.False(new SetTrackGroup(nested.TrackGroup(All)! with { ParentId = Drums }).Apply(nested).Ok);
        Assert.False(new SetTrackGroup(nested.TrackGroup(All)! with { ParentId = All }).Apply(nested).Ok);
        Assert.False(new SetTrackGroup(nested.TrackGroup(Drums)! with { Bus = new InputRef(new BankId("buses"), 1) }).Apply(nested).Ok); // it has an output already
        Assert.False(new SetTrackGroup(nested.TrackGroup(Low)! with { ParentId = All }).Apply(nested).Ok); // it sums nothing
        Assert.False(new SetTrackGroup(nested.TrackGroup(Drums)! with { ParentId = Low }).Apply(nested).Ok);
        var removed = Sessions.After(Sessions.After(nested, new PutInGroup(T1, Drums)), new RemoveTrackGroup(All));
        Assert.Null(removed.TrackGroup(Drums)!.ParentId);
        Assert.Equal(Drums, removed.SumOf(removed.Track(T1)!)!.Id);
    }

    [Fact]
    public void Nesting_and_removing_at_random_leaves_a_sound_split_without_circles()
    {
        Gen.Select(Gen.Int[0, 5], Gen.Int[0, 5], Gen.Int[0, 3]).Array[1, 25].Sample(steps =>
        {
            var split = Sessions.After(Sessions.Kit.Split, [.. Enumerable.Range(1, 6).Select(n => (Edit)new AddTrackGroup($"G{n}", n != 4)), new PutInGroup(T1, new("g1"))]);
            foreach (var (a, b, act) in steps)
            {
                var (one, other) = (new TrackGroupId($"g{a + 1}"), new TrackGroupId($"g{b + 1}"));
                Edit? edit = act switch
                {
                    0 => new RemoveTrackGroup(one),
                    1 when split.TrackGroup(one) is { } group => new SetTrackGroup(group with { ParentId = other, Bus = null }),
                    2 => new PutInGroup(T1, one),
                    _ => new TakeOutOfGroup(T1, one),
                };
                split = edit?.Apply(split) is { Ok: true, Value: var after } ? after : split;
                Assert.Null(SplitRules.Trouble(split));
                Assert.All(split.TrackGroups, g => Assert.DoesNotContain(g, split.Above(g)));
                Assert.True(split.Tracks.All(t => split.LevelsOf(t).All(g => !g.Sums)));
            }
        }, iter: 300);
    }

    [Fact]
    public void Stems_are_the_last_sums_and_each_track_is_in_one()
    {
        var split = Sessions.After(
            Kit,
            new SetTrackGroup(Kit.TrackGroup(Drums)! with { ParentId = All }),
            new PutInGroup(T1, Drums),
            new PutInGroup(T1, Low),
            new PutInGroup(new("t2"), All),
            new PutInGroup(new("t3"), Low));
        var stems = PrintPlan.For(Sessions.View(split, Sessions.Kit.Song), PrintKind.Stems).Value!.Split;
        Assert.Equal(["Low", "All"], stems.Tracks.Where(t => t.Armed).Select(t => t.Name));
        var signal = SplitSignal.Of(stems);
        string Into(string id) => string.Join(", ", signal.BusFeeds.Where(f => f.FromTrackId == new TrackId(id)).Select(f => stems.Track(f.ToTrackId)!.Name));
        Assert.Equal(("All", "All", "Low"), (Into("t1"), Into("t2"), Into("t3")));
        Assert.Null(SplitRules.Trouble(stems));
    }
}

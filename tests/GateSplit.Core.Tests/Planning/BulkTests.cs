using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Planning;

public sealed class BulkTests
{
    private static readonly Split Kit = Sessions.Kit.Split;
    private static readonly TrackId[] All = [.. Kit.Tracks.Select(t => t.Id)];

    [Fact]
    public void Inputs_count_upward_in_steps_of_the_width()
    {
        // Ten microphones: nine mono, then the overheads and the room as pairs, then the return.
        var bare = Sessions.After(Kit, [.. All.Select(id => (Edit)new SetTrackInput(id, null))]);
        var counted = Sessions.After(bare, Bulk.CountInputs(bare, [.. All.Take(11)], new InputRef(new BankId("b-u1"), 3)));
        Assert.Equal(
            ["Return 3", "Return 4", "Return 5", "Return 6", "Return 7", "Return 8", "Return 9", "Return 10", "Return 11", "Return 12-13", "Return 14-15", "no input"],
            counted.Tracks.Select(counted.InputName));
        Assert.False(Bulk.CountInputs(bare, All, new InputRef(new BankId("b-u1"), 20)).Apply(bare).Ok); // it would run over the end: nothing is changed
    }

    [Fact]
    public void Names_count_where_the_pattern_says()
    {
        string[] Named(string pattern) => [.. Sessions.After(Kit, Bulk.Name(Kit, [new TrackId("t2"), new TrackId("t1"), new TrackId("t9")], pattern)).Tracks.Where(t => t.Id.Value is "t1" or "t2" or "t9").Select(t => t.Name)];
        Assert.Equal(["Tom 1 close", "Tom 2 close", "Tom 3 close"], Named("Tom # close"));
        Assert.Equal(["Tom 1", "Tom 2", "Tom 3"], Named("Tom"));
        Assert.Equal(["Tom 1", "Tom 2", "Tom 3"], Named("  Tom "));
    }

    [Fact]
    public void Several_tracks_go_into_a_group_as_one_edit()
    {
        var grouped = Sessions.After(Kit, new AddTrackGroup("Close", true));
        var edit = Bulk.PutInGroup(grouped, [new TrackId("t1"), new TrackId("t2"), new TrackId("t4")], new TrackGroupId("g1"));
        Assert.Equal(["t1", "t2", "t4"], Sessions.After(grouped, edit).Tracks.Where(t => t.GroupId?.Value == "g1").Select(t => t.Id.Value));
        Assert.False(Bulk.PutInGroup(grouped, [new TrackId("t1")], new TrackGroupId("g2")).Apply(grouped).Ok);
    }

    [Fact]
    public void Bleed_of_nine_microphones_is_one_action_and_one_undo()
    {
        ElementRef[] nine = [.. Kit.Units[0].Chart.Elements.Where(e => e.Hears.Any(h => h.Bleed)).Take(9).Select(e => new ElementRef(new UnitId("u1"), e.Id))];
        Assert.Equal(9, nine.Length);
        var edit = Bulk.Elements(Kit, nine, "Set the bleed of", e => new SetBleed(e, new(-12)));
        Assert.Equal("Set the bleed of 9 elements", edit.Name(Kit));
        var after = Sessions.After(Kit, edit);
        Assert.Equal(nine, after.Units[0].Elements.Where(e => e.BleedDb == new Core.Quantities.Decibels(-12)).Select(e => new ElementRef(new UnitId("u1"), e.ElementId)));
        Assert.Equal("Set the bleed of 1 element", Bulk.Elements(Kit, [nine[0], nine[0], new(new UnitId("u9"), new ElementId("x"))], "Set the bleed of", e => new SetBleed(e, new(-12))).Name(Kit));
    }

    [Fact]
    public void Gathering_on_one_port_leaves_one_track_that_holds_all_and_none_that_is_empty()
    {
        var view = Sessions.View(Kit, Sessions.Kit.Song);
        ElementRef[] toms = [Of("tom1"), Of("tom2"), Of("tom3")];
        var port = Kit.Units[0].Element(toms[1].ElementId).Port!.Value;
        var after = Sessions.After(Kit, Bulk.Gather(view, toms, port).Value!);
        var seen = Sessions.View(after, Sessions.Kit.Song);
        Assert.Equal(Kit.Tracks.Length - 2, after.Tracks.Length);
        var track = Assert.Single(after.Tracks, t => seen.SoundingIn(t).Contains(toms[0]));
        Assert.Equal(toms, seen.SoundingIn(track));
        Assert.Equal("t7", track.Id.Value); // the one that listened there before
        Assert.Equal(Width.Stereo, seen.Split.Units[0].Chart.Port(port)!.Width);
        Assert.Equal(toms.Select(Meant.For), track.MeantFor.OrderBy(m => m.ToString(), StringComparer.Ordinal));
        Assert.DoesNotContain(after.Tracks, t => seen.IsSilent(t));

        // On a port that nobody listens to the first track goes there, as wide as the port.
        var alone = Sessions.After(Kit, new RemoveTrack(Sessions.TrackOf(Kit, "Ride").Id), new AssignPort(Of("ride"), null));
        var free = Kit.Units[0].Chart.Port(Kit.Units[0].Element(new ElementId("ride")).Port!.Value)!;
        Assert.Equal(Width.Stereo, free.Width);
        var moved = Sessions.After(alone, Bulk.Gather(Sessions.View(alone, Sessions.Kit.Song), toms, free.Number).Value!);
        Assert.Equal((Width.Stereo, moved.InputOf(moved.Units[0], free.FirstChannel)), (moved.Track(new TrackId("t6"))!.Width, moved.Track(new TrackId("t6"))!.Input));
        Assert.Equal(alone.Tracks.Length - 2, moved.Tracks.Length);

        Assert.Equal("Choose two elements or more, all of one source.", Bulk.Gather(view, [toms[0], toms[0]], port).Trouble);
        Assert.Contains("has no port 99", Bulk.Gather(view, toms, 99).Trouble, StringComparison.Ordinal);
    }

    [Fact]
    public void Into_a_pass_go_tracks_with_what_plays_on_them_alone_and_with_their_cables()
    {
        var view = Sessions.View(Kit, Sessions.Kit.Song);
        var after = Sessions.After(Kit, Bulk.IntoPass(view, [new TrackId("t8"), new TrackId("t9")], 2).Value!);
        Assert.Equal(2, after.Passes);
        Assert.DoesNotContain(GateSplit.Core.Checks.AllChecks.Look(Sessions.View(after, Sessions.Kit.Song)), f => f.ToMend);
        Assert.Equal(["t8", "t9"], after.Tracks.Where(t => t.Pass == 2).Select(t => t.Id.Value));
        Assert.Equal(2, after.Units[0].Elements.Count(e => e.Pass == 2));
        Assert.All(after.Units[0].Elements, e => Assert.True(e.Pass is null or 2));
        var second = Sessions.View(after, Sessions.Kit.Song).InPass(2);
        Assert.Equal(2, second.SoundingElements.Count(e => e.Set.Pass == 2));
        Assert.All(second.Split.Tracks, t => Assert.Single(second.SoundingIn(t)));

        // What another track of the first pass records too plays in both.
        var twice = Sessions.After(Kit, new AddTrack(Kit.Tracks[7] with { Id = new TrackId("t50"), Name = "Again" }));
        var both = Sessions.After(twice, Bulk.IntoPass(Sessions.View(twice, Sessions.Kit.Song), [new TrackId("t50")], 2).Value!);
        Assert.All(both.Units[0].Elements, e => Assert.Null(e.Pass));

        // A cable of one pass is plugged in the other.
        var cabled = Sessions.After(Kit, new AddBank(BankKind.Analog, "Analog", 8), new SetBank(Kit.Banks[0] with { Connected = false }));
        var laid = Layer.Propose(Sessions.View(cabled, Sessions.Kit.Song), new LayWish(Anew: true)).After;
        var first = laid.Tracks.First(t => t.Pass == 1);
        var moved = Sessions.After(laid, Bulk.IntoPass(Sessions.View(laid, Sessions.Kit.Song), [first.Id], 3).Value!);
        Assert.Equal(first.Input, Assert.Single(moved.Cables, c => c.Pass == 3).Input);
        Assert.Equal(laid.Cables.Length, moved.Cables.Length);
        Assert.Single(Sessions.View(moved, Sessions.Kit.Song).InPass(3).SoundingIn(moved.Track(first.Id)!));
        Assert.Equal("A split has 1 to 64 passes.", Bulk.IntoPass(view, [new TrackId("t8")], 65).Trouble);
        Assert.False(Bulk.IntoPass(view, [new TrackId("t8")], 0).Ok);
    }

    private static ElementRef Of(string element) => new(new UnitId("u1"), new ElementId(element));

    [Fact]
    public void Arm_monitor_width_and_removal_touch_the_chosen_tracks_only()
    {
        TrackId[] some = [new("t3"), new("t5")];
        var after = Sessions.After(Kit, Bulk.Arm(Kit, some, false), Bulk.Monitor(Kit, some, MonitorMode.Always), Bulk.Widen(Kit, some, Width.Stereo));
        Assert.All(after.Tracks, t => Assert.Equal(some.Contains(t.Id), t is { Armed: false, Monitor: MonitorMode.Always, Width: Width.Stereo }));
        Assert.Equal(Kit.Tracks.Where(t => !some.Contains(t.Id)), Sessions.After(Kit, Bulk.Remove(Kit, some)).Tracks);
        Assert.Equal("Disarm 2 tracks", Bulk.Arm(Kit, some, false).Name(Kit));
    }

    [Fact]
    public void Ordering_by_input_leaves_the_others_where_they_are()
    {
        var mixed = Sessions.After(Kit, new OrderTracks([.. All.Reverse()]));
        Assert.Equal(All, Sessions.After(mixed, Bulk.OrderByInput(mixed, All)).Tracks.Select(t => t.Id));
        var some = Sessions.After(mixed, Bulk.OrderByInput(mixed, [new TrackId("t12"), new TrackId("t1")])).Tracks.Select(t => t.Id).ToList();
        Assert.Equal((new TrackId("t1"), new TrackId("t12")), (some[0], some[^1]));
        Assert.Equal(mixed.Tracks.Select(t => t.Id).Skip(1).Take(10), some.Skip(1).Take(10));
    }

    [Fact]
    public void Ports_count_upward_over_those_that_are_wide_enough_and_the_tracks_move_along()
    {
        var view = Sessions.View(Kit, Sessions.Kit.Song);
        var counted = Sessions.After(Kit, Bulk.CountPorts(view, [new TrackId("t1"), new TrackId("t2"), new TrackId("t10")], 5).Value!);
        Assert.Equal([5, 6, 7], new[] { "kick-in", "kick-out", "overheads" }.Select(id => counted.Units[0].Element(new ElementId(id)).Port!.Value));
        Assert.Equal(["Return 9", "Return 11", "Return 13-14"], new[] { "t1", "t2", "t10" }.Select(id => counted.InputName(counted.Track(new TrackId(id))!)));
        Assert.Contains("too few ports from 11 on for 3 tracks", Bulk.CountPorts(view, [new TrackId("t1"), new TrackId("t2"), new TrackId("t10")], 11).Trouble);
        var empty = Sessions.After(Kit, new SetTrackInput(new TrackId("t1"), null));
        Assert.False(Bulk.CountPorts(Sessions.View(empty, Sessions.Kit.Song), [new TrackId("t1")], 2).Ok);
    }

    [Fact]
    public void Tracks_are_put_into_the_order_of_their_elements_or_ports()
    {
        var song = Sessions.Kit.Song;
        var mixed = Sessions.After(Kit, new OrderTracks([.. All.Reverse()]));
        Assert.Equal(All, Sessions.After(mixed, Bulk.OrderByElement(Sessions.View(mixed, song), All)).Tracks.Select(t => t.Id));

        // Kick in leaves by the last port and its track follows: by ports it comes last, by elements first.
        var moved = Sessions.After(mixed, Bulk.CountPorts(Sessions.View(mixed, song), [new TrackId("t1")], 12).Value!, Bulk.CountPorts(Sessions.View(mixed, song), [new TrackId("t12")], 1).Value!);
        var view = Sessions.View(moved, song);
        Assert.Equal("t1", Sessions.After(moved, Bulk.OrderByPort(view, All)).Tracks[^1].Id.Value);
        Assert.Equal("t1", Sessions.After(moved, Bulk.OrderByElement(view, All)).Tracks[0].Id.Value);
    }
}

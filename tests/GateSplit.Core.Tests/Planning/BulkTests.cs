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

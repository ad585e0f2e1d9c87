using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Signal;

public sealed class LineWayTests
{
    private static readonly Split Drums = Sessions.Drums.Split;

    [Fact]
    public void A_line_is_told_from_end_to_end_with_its_gain()
    {
        var split = Sessions.After(Drums, new SetFader(Sessions.Element(Drums, "kick"), new Decibels(-3)), new SetInMain(Sessions.Element(Drums, "kick"), false));
        Assert.Equal("Kick leaves Mudlark Nine by port 2 (USB 3) and arrives on track 1, Kick, at −3.0 dB.", Way(split, "kick"));
    }

    [Fact]
    public void A_line_that_ends_somewhere_on_the_way_says_where()
    {
        var quiet = Sessions.After(Drums, new SetMuted(Sessions.Element(Drums, "kick"), true));
        Assert.Equal("Kick leaves Mudlark Nine nowhere.", Way(quiet, "kick"));
        var lost = Sessions.After(Drums, new SetInMain(Sessions.Element(Drums, "kick"), false), new RemoveTrack(Drums.Tracks[0].Id));
        Assert.Equal("Kick leaves Mudlark Nine by port 2 (USB 3), and no track listens there.", Way(lost, "kick"));
    }

    [Fact]
    public void Sides_that_differ_are_told_apart()
    {
        var hall = Sessions.Element(Sessions.Kit.Split, "hall");
        var split = Sessions.After(Sessions.Kit.Split, new SetPan(hall, new Pan(0.5)));
        Assert.EndsWith("at −6.0 dB left, 0.0 dB right.", LineWay.Of(SplitSignal.Of(split), hall));
    }

    [Fact]
    public void What_arrives_through_an_effect_alone_is_no_arrival_and_a_turned_side_counts_as_loud()
    {
        // The hall's track carries the snare only through the hall; nothing of it is told there.
        Assert.Equal("Snare top leaves Ostler Kit Room by port 3 (Return 5-6) and arrives on track 3, Snare top, at 0.0 dB.", Way(Sessions.Kit.Split, "snare-top"));
        var both = Sessions.After(Drums, new AddTrack(new Track(new TrackId("t90"), "Again", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 3) }), new SetInMain(Sessions.Element(Drums, "kick"), false));
        Assert.Equal("Kick leaves Mudlark Nine by port 2 (USB 3) and arrives on track 1, Kick, at 0.0 dB and track 10, Again, at 0.0 dB.", Way(both, "kick"));
    }

    [Fact]
    public void A_tick_holds_as_long_as_the_line_goes_the_way_it_went()
    {
        var kick = Sessions.Element(Drums, "kick");
        bool Ticked(Split split, string element = "kick") => LineWay.IsTicked(SplitSignal.Of(split), Sessions.Element(Drums, element));
        var ticked = Sessions.After(Drums, new TickLine(kick, Way(Drums, "kick")));
        Assert.Equal((false, true, false), (Ticked(Drums), Ticked(ticked), Ticked(ticked, "snare")));
        Assert.False(Ticked(Sessions.After(ticked, new SetFader(kick, new Decibels(-1)))));
        Assert.True(Ticked(Sessions.After(ticked, new SetFader(kick, new Decibels(-1)), new SetFader(kick, new Decibels(0)))));
    }

    private static string Way(Split split, string element) => LineWay.Of(SplitSignal.Of(split), Sessions.Element(split, element));
}

using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Edits;

/// <summary>The recorder's side: rows of inputs, cables, groups of tracks, and what they do to the signal.</summary>
public sealed class RecorderEditTests
{
    private static readonly InputRef Sockets = new(new BankId("in1"), 1);
    private static readonly ElementRef Kick = new(new UnitId("u1"), new ElementId("kick"));

    [Fact]
    public void Inputs_are_switched_off_and_take_nothing()
    {
        var (split, _) = Sessions.Drums;
        var off = Sessions.After(split, new SwitchInputs(new BankId("b-u1"), 3, 5, false));
        Assert.Equal([3, 4, 5], off.Banks[0].Off);
        var signal = SplitSignal.Of(off);
        Assert.DoesNotContain(signal.Reaching(Kick), c => c.TrackId.Value == "t1");
        Assert.Equal([3, 5], Sessions.After(off, new SwitchInputs(new BankId("b-u1"), 4, 4, true)).Banks[0].Off);
        Assert.Equal("Switch USB 4 on", new SwitchInputs(new BankId("b-u1"), 4, 4, true).Name(off));
        Assert.Contains("1 to 12", new SwitchInputs(new BankId("b-u1"), 0, 2, true).Apply(split).Trouble);
        Assert.Contains("1 to 12", new SwitchInputs(new BankId("b-u1"), 12, 13, true).Apply(split).Trouble);
    }

    [Fact]
    public void A_cable_leads_a_channel_to_a_socket_and_only_there_if_usb_is_off()
    {
        var split = Analog(4);
        var plugged = Sessions.After(split, new PlugCables(new UnitId("u1"), 3, 2, Sockets with { Channel = 2 }), new SetTrackInput(new TrackId("t1"), Sockets with { Channel = 2 }));
        Assert.Equal([new Cable(new UnitId("u1"), 3, new(new BankId("in1"), 2)), new Cable(new UnitId("u1"), 4, new(new BankId("in1"), 3))], plugged.Cables);
        Assert.Equal(1, Assert.Single(SplitSignal.Of(plugged).Reaching(Kick)).Gain.LL, 1e-12);
        Assert.Equal("Analog 2", plugged.InputName(plugged.Track(new TrackId("t1"))!));

        // A socket takes one plug: the second pulls the first.
        var other = Sessions.After(plugged, new PlugCables(new UnitId("u1"), 7, 1, Sockets with { Channel = 2 }));
        Assert.Empty(SplitSignal.Of(other).Reaching(Kick));
        Assert.Equal(2, other.Cables.Length);
        Assert.Empty(Sessions.After(other, new PullCables(new UnitId("u1"))).Cables);
        Assert.Contains("no such cable", new PullCables(new UnitId("u1"), Sockets).Apply(split).Trouble);
    }

    [Fact]
    public void A_cable_pulls_only_what_it_takes_the_place_of()
    {
        var split = Sessions.After(
            Analog(4),
            new AddUnit(WickerKeys.Chart),
            new AddBank(BankKind.Loopback, "Loop", 2),
            new PlugCables(new UnitId("u1"), 3, 1, Sockets, 1),
            new PlugCables(new UnitId("u1"), 4, 1, Sockets, 2));
        var pair = new InputRef(new BankId("in2"), 1);
        string Plugs(Split s, InputRef input) => string.Join(' ', s.Cables.Where(c => c.Input == input).Select(c => $"{c.UnitId}:{c.Channel}/{c.Pass}"));

        // A pass of its own leaves the other pass's cable; one for all passes pulls both; one of a single pass pulls that for all.
        Assert.Equal("u1:3/1 u1:4/2", Plugs(split, Sockets));
        Assert.Equal("u1:4/2 u2:1/1", Plugs(Sessions.After(split, new PlugCables(new UnitId("u2"), 1, 1, Sockets, 1)), Sockets));
        var all = Sessions.After(split, new PlugCables(new UnitId("u2"), 1, 1, Sockets));
        Assert.Equal("u2:1/", Plugs(all, Sockets));
        Assert.Equal("u1:5/2", Plugs(Sessions.After(all, new PlugCables(new UnitId("u1"), 5, 1, Sockets, 2)), Sockets));

        // On a looped-back pair two sources are summed, and one channel of a source takes the place of another.
        var looped = Sessions.After(split, new PlugCables(new UnitId("u1"), 1, 1, pair), new PlugCables(new UnitId("u2"), 1, 1, pair));
        Assert.Equal("u1:1/ u2:1/", Plugs(looped, pair));
        Assert.Equal("u2:1/ u1:2/", Plugs(Sessions.After(looped, new PlugCables(new UnitId("u1"), 2, 1, pair)), pair));

        // Pulling the cables of one source leaves those of another, in the same input too.
        Assert.Equal("u2:1/", Plugs(Sessions.After(looped, new PullCables(new UnitId("u1"), pair)), pair));
        Assert.Equal(["u2"], Sessions.After(looped, new PullCables(new UnitId("u1"))).Cables.Select(c => c.UnitId.Value));
    }

    [Fact]
    public void Cables_are_named_by_their_first_and_their_last()
    {
        var split = Analog(4);
        Assert.Equal("Plug Mudlark Nine 3-5 into Analog 2-4", new PlugCables(new UnitId("u1"), 3, 3, Sockets with { Channel = 2 }).Name(split));
        Assert.Equal("Plug Mudlark Nine 3 into Analog 1", new PlugCables(new UnitId("u1"), 3, 1, Sockets).Name(split));
        Assert.Equal("Pull all cables of Mudlark Nine", new PullCables(new UnitId("u1")).Name(split));
        Assert.Equal("Pull the cable from Analog 1", new PullCables(new UnitId("u1"), Sockets).Name(split));
    }

    [Fact]
    public void A_row_of_inputs_may_become_so_short_that_the_last_cable_and_the_last_track_just_fit()
    {
        var split = Sessions.After(Analog(6), new PlugCables(new UnitId("u1"), 3, 1, Sockets with { Channel = 4 }), new SetTrackInput(new TrackId("t1"), Sockets with { Channel = 4 }));
        var bank = split.Bank(Sockets.BankId)!;
        Assert.Equal((4, 2), Sessions.After(split, new SetBank(bank with { Count = 4, Off = [2, 6] })).Bank(bank.Id) is { Off: [var off] } shorter ? (shorter.Count, off) : default);
        Assert.Equal("A cable is plugged into Analog 4: pull it first.", new SetBank(bank with { Count = 3 }).Apply(split).Trouble);
        var uncabled = Sessions.After(split, new PullCables(new UnitId("u1")));
        Assert.Equal("Kick listens to Analog 4: move it first.", new SetBank(bank with { Count = 3 }).Apply(uncabled).Trouble);
    }

    [Theory]
    [InlineData(0, 1, 1, "channels 1 to 12")]
    [InlineData(12, 2, 1, "channels 1 to 12")]
    [InlineData(1, 2, 4, "inputs 1 to 4")]
    [InlineData(1, 1, 0, "inputs 1 to 4")]
    public void A_cable_that_fits_nowhere_is_refused(int channel, int count, int input, string words) =>
        Assert.Contains(words, new PlugCables(new UnitId("u1"), channel, count, Sockets with { Channel = input }).Apply(Analog(4)).Trouble);

    [Fact]
    public void A_cable_of_one_pass_carries_nothing_in_another()
    {
        var split = Sessions.After(
            Analog(2),
            new PlugCables(new UnitId("u1"), 3, 1, Sockets, 1),
            new PlugCables(new UnitId("u1"), 4, 1, Sockets, 2),
            new SetTrackInput(new TrackId("t1"), Sockets),
            new SetTrackInput(new TrackId("t2"), Sockets),
            new SetTrackPass(new TrackId("t2"), 2));
        Assert.Equal(2, split.Cables.Length);
        var signal = SplitSignal.Of(split);
        Assert.Equal(["t1"], signal.Reaching(Kick).Select(c => c.TrackId.Value));
        Assert.Equal(["t2"], signal.Reaching(new(new UnitId("u1"), new ElementId("snare"))).Select(c => c.TrackId.Value));
        Assert.Equal([new Cable(new UnitId("u1"), 4, Sockets, 2)], split.InPass(2).Cables);
    }

    [Fact]
    public void A_pair_may_only_begin_where_the_row_offers_one()
    {
        var split = Sessions.After(Analog(4), new SetTrackWidth(new TrackId("t1"), Width.Stereo), new SetTrackInput(new TrackId("t1"), Sockets with { Channel = 3 }));
        Assert.Contains("odd inputs only: 1-2 or 3-4", new SetTrackInput(new TrackId("t1"), Sockets with { Channel = 2 }).Apply(split).Trouble);
        var pairs = Sessions.After(split, new SetBank(split.Bank(new BankId("in1"))! with { Widths = InputWidths.PairsOnly }));
        Assert.Contains("only as pairs", new SetTrackWidth(new TrackId("t1"), Width.Mono).Apply(pairs).Trouble);
        Assert.Contains("only as pairs", new SetTrackInput(new TrackId("t2"), Sockets).Apply(pairs).Trouble);
    }

    [Fact]
    public void A_looped_back_pair_is_late_by_its_delay_also_through_a_track_that_feeds_it()
    {
        var (split, _) = Sessions.Laid(SiskinMono.Chart);
        var looped = Sessions.After(split, new AddBank(BankKind.Loopback, "Back", 4));
        looped = Sessions.After(
            looped,
            new SetBank(looped.Bank(new BankId("in1"))! with { DelaySamples = 300 }),
            new PlugCables(new UnitId("u1"), 1, 2, Sockets),
            new AddTrack(new Track(new TrackId("t8"), "Taken", Width.Stereo) { Input = Sockets, Bus = new InputRef(new BankId("in1"), 3) }),
            new AddTrack(new Track(new TrackId("t9"), "Taken again", Width.Stereo) { Input = new InputRef(new BankId("in1"), 3) }));
        var signal = SplitSignal.Of(looped);
        var lead = new ElementRef(new UnitId("u1"), looped.Units[0].Elements[0].ElementId);
        Assert.Equal(300, signal.Reaching(lead).Single(c => c.TrackId.Value == "t8").DelaySamples);
        Assert.Equal(600, signal.Reaching(lead).Single(c => c.TrackId.Value == "t9").DelaySamples);
        Assert.Equal(0, signal.Reaching(lead).Single(c => c.TrackId.Value == "t1").DelaySamples);
    }

    [Fact]
    public void A_group_sums_its_tracks_where_they_are_panned_and_a_level_only_group_just_turns_them_down()
    {
        var (split, _) = Sessions.Drums;
        var summed = Sessions.After(
            split,
            new AddTrackGroup("Drums", true),
            new PutInGroup(new TrackId("t1"), new TrackGroupId("g1")),
            new SetTrackLevel(new TrackId("t1"), new Decibels(-6)),
            new SetTrackPan(new TrackId("t1"), new Pan(1)),
            new AddTrack(new Track(new TrackId("t90"), "Stem", Width.Stereo) { Input = new InputRef(new BankId("buses"), 1) }));
        summed = Sessions.After(summed, new SetTrackGroup(summed.TrackGroup(new TrackGroupId("g1"))! with { LevelDb = new Decibels(-2), Bus = new InputRef(new BankId("buses"), 1) }));
        var feed = Assert.Single(SplitSignal.Of(summed).BusFeeds);
        Assert.Equal(Math.Pow(10, -8 / 20.0), feed.Gain.RL, 1e-9);
        Assert.Equal(0, feed.Gain.LL);

        var level = Sessions.After(
            split,
            new AddTrackGroup("Level", false),
            new PutInGroup(new TrackId("t1"), new TrackGroupId("g1")),
            new SetTrackBus(new TrackId("t1"), new InputRef(new BankId("buses"), 3)),
            new AddTrack(new Track(new TrackId("t90"), "Stem", Width.Mono) { Input = new InputRef(new BankId("buses"), 3) }));
        level = Sessions.After(level, new SetTrackGroup(level.TrackGroup(new TrackGroupId("g1"))! with { LevelDb = new Decibels(-20) }));
        Assert.Equal(0.1, Assert.Single(SplitSignal.Of(level).BusFeeds).Gain.LL, 1e-9);
        Assert.Null(Sessions.After(level, new RemoveTrackGroup(new TrackGroupId("g1"))).Track(new TrackId("t1"))!.GroupId);
    }

    [Fact]
    public void A_live_channel_is_heard_and_not_recorded()
    {
        var (split, song) = Sessions.Drums;
        var live = Sessions.After(split, new SetLive(new TrackId("t1"), true));
        Assert.False(live.Track(new TrackId("t1"))!.Armed);
        Assert.True(live.Track(new TrackId("t1"))!.Heard);
        Assert.DoesNotContain(Core.Checks.AllChecks.Look(Sessions.View(live, song)), f => f.Check == "NotArmed");
        Assert.False(Sessions.After(live, new SetArmed(new TrackId("t1"), true)).Track(new TrackId("t1"))!.Live);
    }

    [Fact]
    public void Removing_a_row_takes_its_cables_and_leaves_the_tracks()
    {
        var split = Sessions.After(Analog(4), new PlugCables(new UnitId("u1"), 3, 1, Sockets), new SetTrackInput(new TrackId("t1"), Sockets));
        var gone = Sessions.After(split, new RemoveBank(new BankId("in1")));
        Assert.Empty(gone.Cables);
        Assert.Null(gone.Track(new TrackId("t1"))!.Input);
        Assert.Contains("belongs to a source", new RemoveBank(new BankId("b-u1")).Apply(split).Trouble);
        Assert.Contains("pull it first", new SetBank(Sessions.After(split, new PlugCables(new UnitId("u1"), 3, 1, Sockets with { Channel = 4 })).Bank(new BankId("in1"))! with { Count = 3 })
            .Apply(Sessions.After(split, new PlugCables(new UnitId("u1"), 3, 1, Sockets with { Channel = 4 }))).Trouble);
        Assert.Contains("called analog already", new AddBank(BankKind.Analog, "analog", 2).Apply(split).Trouble);
    }

    [Fact]
    public void What_is_said_to_sound_goes_before_the_notes()
    {
        var (split, song) = Sessions.Drums;
        var told = Sessions.After(split, new SetSounds(Kick, false));
        Assert.DoesNotContain(Kick, Sounding.Elements(told, song));
        Assert.Contains(Kick, Sounding.Elements(Sessions.After(told, new SetSounds(Kick, null)), song));
        var none = Core.Notes.Song.Of(new Core.Notes.PatternWriter(480, Tempo.Default, Core.Notes.Metre.Common).ToFile("None", 1));
        Assert.Empty(Sounding.Elements(split, none));
        Assert.Equal([Kick], Sounding.Elements(Sessions.After(split, new SetSounds(Kick, true)), none));
    }

    [Fact]
    public void A_send_has_a_level_and_a_pan_of_its_own()
    {
        var (split, _) = Sessions.Drums;
        var snare = new ElementRef(new UnitId("u1"), new ElementId("snare"));
        var sent = Sessions.After(split, new SetSend(snare, new Decibels(-6), new Pan(1)));
        var gain = SplitSignal.SendGain(sent.Units[0], sent.Units[0].Chart.Element(new ElementId("snare"))!);
        Assert.Equal(Math.Pow(10, -6 / 20.0), gain.RL, 1e-9);
        Assert.Equal(0, gain.LL);
        Assert.Contains("no shared effect", new SetSend(new(new UnitId("u1"), Sessions.Laid(SiskinMono.Chart).Split.Units[0].Elements[0].ElementId), new Decibels(-6), null).Apply(Sessions.Laid(SiskinMono.Chart).Split).Trouble);
    }

    private static Split Analog(int sockets)
    {
        var (split, _) = Sessions.Drums;
        return Sessions.After(split, new AddBank(BankKind.Analog, "Analog", sockets), new SetBank(split.Banks[0] with { Connected = false }));
    }

    [Fact]
    public void A_cable_is_pulled_for_one_pass_and_stays_for_the_other()
    {
        var boat = GateSplit.Core.Demo.ReliefBoat.Session.Split;
        var twice = boat.Cables.GroupBy(c => c.Input).First(g => g.Count() == 2).Key;
        var pulled = Sessions.After(boat, new PullCables(new UnitId("u1"), twice, 1));
        Assert.Equal([2], pulled.Cables.Where(c => c.Input == twice).Select(c => c.Pass));
        Assert.Equal(boat.Cables.Length - 1, pulled.Cables.Length);
        Assert.False(new PullCables(new UnitId("u1"), twice, 1).Apply(pulled).Ok);
        Assert.DoesNotContain(Sessions.After(boat, new PullCables(new UnitId("u1"), twice)).Cables, c => c.Input == twice);
    }
}

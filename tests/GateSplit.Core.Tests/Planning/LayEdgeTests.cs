using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Planning;

/// <summary>Laying at its edges: what is left alone, what is set on the way, and what is said.</summary>
public sealed class LayEdgeTests
{
    private static readonly UnitId U1 = new("u1");

    [Fact]
    public void A_port_that_is_taken_on_its_right_side_only_is_no_pair()
    {
        ChartPort[] pairs = [Port(1, Width.Stereo), Port(2, Width.Stereo)];
        var seats = Seats([new(U1, Width.Mono) { Ports = [1], Side = 1 }, new(U1, Width.Stereo)], pairs);
        Assert.Equal([(1, 1, 1), (2, 0, 1)], seats.Select(s => (s!.Port.Number, s.Side, s.Pass)));
    }

    [Fact]
    public void What_belongs_to_a_line_that_has_its_port_already_comes_into_its_pass()
    {
        ChartPort[] ports = [Port(1, Width.Mono), Port(2, Width.Mono)];
        var seats = Seats([new(U1, Width.Mono) { Ports = [1], Set = "b" }, new(U1, Width.Mono) { Set = "a" }, new(U1, Width.Mono) { Set = "b" }], ports);
        Assert.Equal([(1, 1), (1, 2), (2, 1)], seats.Select(s => (s!.Port.Number, s.Pass)));
    }

    [Fact]
    public void Sockets_that_suffice_need_no_word_and_pairs_that_are_missing_do()
    {
        string[] Reasons(Chart chart, int sockets, LayWish wish)
        {
            var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
            var start = StartingSplit.Of([chart], 4, 48000);
            var split = Sessions.After(start, new AddBank(BankKind.Analog, "Analog", sockets), new SetBank(start.Banks[0] with { Connected = false }));
            return [.. Layer.Propose(Sessions.View(split, song), wish).Reasons.Where(r => r.Contains("socket", StringComparison.Ordinal))];
        }

        // Nine close microphones, the overheads, the room and the hall as pairs.
        Assert.Empty(Reasons(OstlerKitRoom.Chart, 15, new LayWish()));
        Assert.Empty(Reasons(OstlerKitRoom.Chart, 15, new LayWish(Anew: true)));
        Assert.Equal(["15 channels of Ostler Kit Room on 14 sockets take 2 passes: the cables are moved between them."], Reasons(OstlerKitRoom.Chart, 14, new LayWish()));
        Assert.Equal(["Ostler Kit Room come in over cables, and there are not enough sockets for 15 channels: add some, or a looped-back pair, at Recorder, or connect by USB. Not laid: Overheads, Room and Hall return."], Reasons(OstlerKitRoom.Chart, 1, new LayWish()));
    }

    [Fact]
    public void Passes_are_told_for_the_ports_that_are_still_free()
    {
        var song = Song.Of(CheckPattern.Of([WickerKeys.Chart], Tempo.Default));
        var start = StartingSplit.Of([WickerKeys.Chart], 4, 48000);
        var first = Sessions.View(start, song).SoundingElements.First().Ref;
        var one = Layer.Propose(Sessions.View(start, song), new LayWish { Only = [first] }).After;
        Assert.Single(one.Tracks); // of four ports, the main among them, one is taken
        Assert.Contains("12 lines of Wicker Keys on 3 ports take 4 passes: in each, only its own lines play.", Layer.Propose(Sessions.View(one, song), new LayWish(HardPan: false)).Reasons);
    }

    [Fact]
    public void Lines_are_laid_into_their_groups_whatever_was_set_before()
    {
        var (split, song) = Sessions.Laid(TansyGrid.Chart);
        var after = Layer.Propose(Sessions.View(split, song), new LayWish(Anew: true, ByGroup: true)).After;
        var grouped = after.Units[0].Chart.Elements.Where(e => after.Units[0].Chart.Group(e.Group) is not null).Select(e => after.Units[0].Element(e.Id)).ToList();
        Assert.NotEmpty(grouped);
        Assert.All(grouped, e => Assert.Equal((true, (int?)null), (e.FollowsGroup, e.Port)));
        var apart = Sessions.After(after, new SetFollowsGroup(new(U1, grouped[0].ElementId), false));
        Assert.True(Layer.Propose(Sessions.View(apart, song), new LayWish(Anew: true, ByGroup: true)).After.Units[0].Element(grouped[0].ElementId).FollowsGroup);
    }

    [Fact]
    public void Tracks_that_go_on_are_moved_into_the_pass_of_their_line()
    {
        var (split, song) = Sessions.Kit;
        var cabled = Sessions.After(split, new AddBank(BankKind.Analog, "Analog", 8), new SetBank(split.Banks[0] with { Connected = false }));
        var proposal = Layer.Propose(Sessions.View(cabled, song), new LayWish(Anew: true));
        Assert.Equal(2, proposal.Passes);
        Assert.Equal(split.Tracks.Select(t => t.Id).ToHashSet(), proposal.After.Tracks.Select(t => t.Id).ToHashSet());
        Assert.All(proposal.Lines, l => Assert.Contains(proposal.After.Tracks, t => t.Name == l.Name && t.Pass == l.Pass && t.Input == l.Input));
    }

    [Fact]
    public void A_pan_is_given_back_to_what_was_panned_apart_and_to_nothing_else()
    {
        var song = Sessions.Kit.Song;
        var start = StartingSplit.Of([OstlerKitRoom.Chart], 4, 48000);
        var panned = Sessions.After(start, new SetPan(Of("room"), new Pan(0.3)), new SetPan(Of("hat"), new Pan(0.4)));
        var after = Layer.Propose(Sessions.View(panned, song), new LayWish()).After;
        Assert.Equal((Pan.Centre, Width.Stereo), (Sessions.TrackOf(after, "Room").Pan, Sessions.TrackOf(after, "Room").Width));
        Assert.Equal((new Pan(0.4), Width.Mono), (Sessions.TrackOf(after, "Hat").Pan, Sessions.TrackOf(after, "Hat").Width));
    }

    [Fact]
    public void What_was_panned_hard_in_the_music_is_given_back_like_any_other_pan_and_a_port_for_one_leaves_pans_alone()
    {
        var start = StartingSplit.Of([OstlerKitRoom.Chart], 4, 48000);
        var hard = Sessions.After(start, new SetPan(Of("hat"), Pan.HardRight), new SetPan(Of("ride"), Pan.HardLeft));
        var after = Layer.Propose(Sessions.View(hard, Sessions.Kit.Song), new LayWish()).After;
        Assert.Equal((Pan.HardRight, Pan.HardLeft), (Sessions.TrackOf(after, "Hat").Pan, Sessions.TrackOf(after, "Ride").Pan));

        var drums = StartingSplit.Of([MudlarkNine.Chart], 4, 48000);
        var panned = Sessions.After(drums, new SetPan(Of("kick"), new Pan(0.2)));
        var laid = Layer.Propose(Sessions.View(panned, Sessions.Drums.Song), new LayWish()).After.Units[0];
        Assert.Equal((new Pan(0.2), (Pan?)null), (laid.Element(new ElementId("kick")).Pan, laid.Element(new ElementId("kick")).MusicalPan));
    }

    [Fact]
    public void A_pan_that_somebody_set_on_a_track_stays_when_its_line_is_laid_again()
    {
        var (split, song) = Sessions.Kit;
        var bare = split with { Tracks = [.. split.Tracks.Select(t => t with { Pan = Pan.Centre })], Units = [split.Units[0] with { Elements = [.. split.Units[0].Elements.Select(e => e.ElementId.Value is "hat" or "ride" ? e with { Pan = Pan.HardLeft, MusicalPan = new Pan(0.3) } : e)] }] };
        var set = Sessions.After(bare, new SetTrackPan(Sessions.TrackOf(split, "Ride").Id, new Pan(-0.7)));
        var after = Layer.Propose(Sessions.View(set, song), new LayWish(Anew: true)).After;
        Assert.Equal((new Pan(0.3), new Pan(-0.7)), (Sessions.TrackOf(after, "Hat").Pan, Sessions.TrackOf(after, "Ride").Pan));
    }

    [Theory]
    [InlineData(PrintKind.Mix)]
    [InlineData(PrintKind.Effects)]
    [InlineData(PrintKind.Stems)]
    [InlineData(PrintKind.Outboard)]
    public void Tracks_of_a_print_have_ids_of_its_kind_alone(PrintKind kind)
    {
        var split = Sessions.After(Sessions.Kit.Split, new AddBank(BankKind.Loopback, "Back", 2), new AddTrackGroup("All", true), new PutInGroup(new TrackId("t1"), new TrackGroupId("g1")));
        var made = PrintPlan.For(Sessions.View(split, Sessions.Kit.Song), kind).Value!.Split.Tracks.Where(t => split.Track(t.Id) is null).ToList();
        Assert.NotEmpty(made);
        Assert.All(made, t => Assert.Equal((int)kind, t.Id.Number / 10_000_000));
        Assert.Equal(made.Count, made.Select(t => t.Id).Distinct().Count());
        Assert.True((int)kind > 0);
    }

    [Fact]
    public void Sockets_with_a_cable_that_stays_or_that_are_off_are_left_alone()
    {
        var start = StartingSplit.Of([OstlerKitRoom.Chart], 4, 48000);
        var analog = new BankId("in1");
        var split = Sessions.After(
            start,
            new AddUnit(SiskinMono.Chart),
            new AddBank(BankKind.Analog, "Analog", 20),
            new SetBank(start.Banks[0] with { Connected = false }),
            new PlugCables(new UnitId("u2"), 1, 1, new InputRef(analog, 1)),
            new SwitchInputs(analog, 3, 3, false));
        var used = Layer.Propose(Sessions.View(split, Sessions.Kit.Song), new LayWish()).Lines.Where(l => l.UnitId == U1).SelectMany(l => Enumerable.Range(l.Input!.Channel, (int)l.Width)).ToList();
        Assert.Equal(15, used.Distinct().Count());
        Assert.DoesNotContain(1, used);
        Assert.DoesNotContain(3, used);
    }

    [Fact]
    public void A_source_stays_in_a_mode_that_has_as_many_ports_as_any_other()
    {
        var separate = MudlarkNine.Chart.Modes.MaxBy(m => m.Ports.Length)!;
        var chart = MudlarkNine.Chart with { Modes = [.. MudlarkNine.Chart.Modes, separate with { Id = new ModeId("also"), Name = "Separate too" }] };
        var start = StartingSplit.Of([chart], 4, 48000);
        var split = Sessions.After(start, new SetMode(U1, new ModeId("also")));
        var proposal = Layer.Propose(Sessions.View(split, Sessions.Drums.Song), new LayWish());
        Assert.DoesNotContain(proposal.Reasons, r => r.Contains("is set to", StringComparison.Ordinal));
        Assert.Equal("also", proposal.After.Units[0].ModeId.Value);
    }

    [Fact]
    public void Of_elements_that_share_a_voice_one_alone_cannot_be_laid()
    {
        var song = Song.Of(CheckPattern.Of([HeronTen.Chart], Tempo.Default));
        var shared = HeronTen.Chart.Elements.Where(e => e.SharedVoice is not null).GroupBy(e => e.SharedVoice).First().Select(e => e.Id).ToList();
        var lines = Layer.Propose(Sessions.View(StartingSplit.Of([HeronTen.Chart], 4, 48000), song), new LayWish { Only = [new(U1, shared[1])] }).Lines;
        Assert.Equal(shared, Assert.Single(lines).Elements.Select(e => e.ElementId));
    }

    [Fact]
    public void Cables_are_pulled_only_if_all_is_laid_anew()
    {
        var song = Sessions.Drums.Song;
        var start = Sessions.Drums.Split;
        var split = Sessions.After(start, new AddBank(BankKind.Analog, "Analog", 12), new SetBank(start.Banks[0] with { Connected = false }), new PlugCables(U1, 1, 2, new InputRef(new BankId("in1"), 11)));
        InputRef mix = new(new BankId("in1"), 11);
        Assert.Contains(Layer.Propose(Sessions.View(split, song), new LayWish()).After.Cables, c => c.Input == mix);
        Assert.DoesNotContain(Layer.Propose(Sessions.View(split, song), new LayWish(Anew: true)).After.Cables, c => c.Input == mix);
        Assert.Contains(Layer.Propose(Sessions.View(split, song), new LayWish(Anew: true) { Only = [Of("kick")] }).After.Cables, c => c.Input == mix);
    }

    [Fact]
    public void Where_not_all_fits_what_fits_is_laid()
    {
        // Two more cables are taken, and fifteen are wanted.
        var start = StartingSplit.Of([OstlerKitRoom.Chart], 4, 48000);
        var cabled = Sessions.After(start, new AddBank(BankKind.Loopback, "Back", 16), new AddBank(BankKind.Analog, "Analog", 15), new SetBank(start.Banks[0] with { Connected = false }));
        var cables = from pass in Enumerable.Range(1, SplitRules.MostPasses) from channel in Enumerable.Range(1, 24) from input in Enumerable.Range(1, 16) select new Cable(U1, channel, new InputRef(new BankId("in1"), input), pass);
        var full = cabled with { Cables = [.. cables.Take(SplitRules.MostCables - 2)] };
        var after = Layer.Propose(Sessions.View(full, Sessions.Kit.Song), new LayWish()).After;
        Assert.Null(SplitRules.Trouble(after));
        Assert.Equal((SplitRules.MostCables, 12), (after.Cables.Length, after.Tracks.Length));
    }

    [Fact]
    public void A_track_that_carries_more_is_no_line_of_an_element()
    {
        var (split, song) = Sessions.Kit;
        var merged = Sessions.After(split, new AssignPort(Of("tom2"), 6), new RemoveTrack(new TrackId("t7")));
        var proposal = Layer.Propose(Sessions.View(merged, song), new LayWish());
        Assert.Empty(proposal.Lines); // two that were put on one port stay there

        var anew = Layer.Propose(Sessions.View(merged, song), new LayWish(Anew: true) { Only = [Of("tom1"), Of("tom2")] });
        Assert.Equal(["High tom", "Mid tom"], anew.Lines.Select(l => l.Name));
        Assert.Equal(2, anew.Lines.Select(l => l.Port.Number).Distinct().Count());
    }

    [Fact]
    public void A_mix_brings_everything_home_in_one_pass_where_the_music_has_it()
    {
        var (split, song) = Sessions.Kit;
        var kick = split.Units[0].Element(new ElementId("kick-in"));
        var apart = split.With(U1, kick with { Port = 4, InMain = false, FollowsGroup = false, Pass = 2, Pan = Pan.HardLeft, MusicalPan = new Pan(0.3) });
        var mixed = PrintPlan.For(Sessions.View(apart, song), PrintKind.Mix).Value!.Split;
        Assert.All(mixed.Units[0].Elements, e => Assert.Equal(((int?)null, true, true, (int?)null), (e.Port, e.InMain, e.FollowsGroup, e.Pass)));
        Assert.Equal(new Pan(0.3), mixed.Units[0].Element(kick.ElementId).Pan);
        Assert.Equal(split.Units[0].Element(new ElementId("hat")).MusicalPan ?? split.Units[0].Element(new ElementId("hat")).Pan, mixed.Units[0].Element(new ElementId("hat")).Pan);
        Assert.Equal(1, mixed.Passes);
    }

    [Fact]
    public void What_records_the_outboard_already_does_not_go_through_it_again()
    {
        var split = Sessions.After(
            Sessions.Drums.Split,
            new AddBank(BankKind.Loopback, "Back", 2),
            new AddTrack(new Track(new TrackId("t90"), "Return", Width.Stereo) { Input = new InputRef(new BankId("in1"), 1) }),
            new AddTrackGroup("All", true),
            new PutInGroup(new TrackId("t3"), new TrackGroupId("g1")),
            new SetTrackBus(new TrackId("t3"), new InputRef(new BankId("buses"), 1)),
            new SetTrackLevel(new TrackId("t3"), new Decibels(-5)),
            new SetArmed(new TrackId("t2"), false));
        var through = PrintPlan.For(Sessions.View(split, Sessions.Drums.Song), PrintKind.Outboard).Value!.Split;
        Assert.Equal(Sessions.Drums.Split.Tracks.Where(t => t.Id.Value != "t2").Select(t => t.Name), through.Tracks.Where(t => t.Armed).Select(t => t.Name));

        // Each is sent out at unity by itself, and what comes back is recorded and goes nowhere else.
        var pair = new InputRef(new BankId("in1"), 1);
        Assert.All(through.Tracks.Where(t => t.Armed), t => Assert.Equal((pair, null, null), (t.Input, t.Bus, t.GroupId)));
        Assert.All(through.Tracks.Where(t => !t.Armed), t => Assert.Equal((pair, null, Decibels.Unity, MonitorMode.Always), (t.Bus, t.GroupId, t.LevelDb, t.Monitor)));
        Assert.Equal(Enumerable.Range(1, 8).SelectMany(n => new[] { n, n }), through.Tracks.Select(t => t.Pass));
    }

    private static System.Collections.Immutable.ImmutableArray<PassPlan.Seat?> Seats(PassPlan.Need[] needs, ChartPort[] ports) =>
        PassPlan.Of(needs, new Dictionary<UnitId, IReadOnlyList<ChartPort>> { [U1] = ports }, null, hardPan: false);

    private static ElementRef Of(string element) => new(U1, new ElementId(element));

    private static ChartPort Port(int number, Width width) => new(number, $"Out {number}", 2 * number - 1, width, Tap.AfterFader);
}

using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Checks;

/// <summary>The checks about modes, groups, shared voices, order, clock and passes, on the sources that have them.</summary>
public sealed class SourceCheckTests
{
    private static readonly Edit[] None = [];

    /// <summary>Check, chart, what makes the split right, what plants the fault, words of the sentence, whether there is a fix.</summary>
    public static TheoryData<string, string, Edit[], Edit[], string, bool> Planted => new()
    {
        {
            "Restart", "brindle-six", [new MarkRestarted(new UnitId("u1"))],
            [new SetMode(new UnitId("u1"), new ModeId("stereo")), new MarkRestarted(new UnitId("u1")), new SetMode(new UnitId("u1"), new ModeId("full"))],
            "Brindle Six is set to Full driver, sixteen channels, but goes on as Built-in driver, stereo", true
        },
        { "MeantElsewhere", "mudlark-nine", None, [.. Shift("mudlark-nine", -1)], "All 9 lines of Mudlark Nine sit 1 input too low: Kick listens to USB 2 but arrives on USB 3", true },
        { "MeantElsewhere", "mudlark-nine", None, [.. Shift("mudlark-nine", 1)], "sit 1 input too high", true },
        {
            "SkippedNumber", "ostler-kit-room", None,
            [new AssignPort(new(new UnitId("u1"), new ElementId("hall")), null), new SetInMain(new(new UnitId("u1"), new ElementId("hall")), false), new RemoveTrack(new TrackId("t12")), new AssignPort(new(new UnitId("u1"), new ElementId("room")), 12), new SetTrackInput(new TrackId("t11"), new InputRef(new BankId("b-u1"), 23))],
            "Ports 8 to 10 and 12 of Ostler Kit Room are used, but 11 was left out", false
        },
        { "SharedVoice", "heron-ten", [new SetMuted(new(new UnitId("u1"), new ElementId("kick")), false)], None, "Rim and Clap share voice V3 of Heron Ten", false },
        { "NoteOnly", "pocket-weir", None, [new AssignPort(new(new UnitId("u1"), new ElementId("steps")), 6)], "Stair notes of Pocket Weir only sends notes", true },
        {
            "LostSide", "ostler-kit-room", None,
            [new AssignPort(new(new UnitId("u1"), new ElementId("tom2")), 6), new SetPan(new(new UnitId("u1"), new ElementId("tom2")), new Pan(1)), new RemoveTrack(new TrackId("t7"))],
            "Mid tom leaves Ostler Kit Room by the right side of port 6, and no track takes that side", true
        },
        { "MixOnly", "mudlark-nine", [new AddTrack(new Track(new TrackId("t90"), "Mix", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 1), Armed = false, Monitor = MonitorMode.Never })], [new RemoveTrack(new TrackId("t90"))], "Effect return and Mudlark Nine's master effect are only in the main mix of Mudlark Nine, which no track takes", true },
        { "FileName", "ostler-kit-room", None, [new RenameTrack(new TrackId("t1"), "Kick/in?")], "Kick/in? has signs that a file name cannot have on every system (/ ?)", true },
        { "Crossings", "ostler-kit-room", None, [new MoveTrack(new TrackId("t1"), 1)], "2 tracks on Return stand in another order than their inputs", true },
        { "InputTakenTwice", "ostler-kit-room", None, [new AddTrack(new Track(new TrackId("t90"), "Again", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 21) })], "both record Return 21-22", true },
        { "CountIn", "mudlark-nine", None, [new SetPass(Sessions.Drums.Split.Pass with { CountInBars = 0 })], "Mudlark Nine follows the recorder, and there is no count-in", true },
        { "Tail", "ostler-kit-room", None, [new SetPass(Sessions.Kit.Split.Pass with { TailSeconds = 0.5 })], "but the tail is only 0.5", true },
    };

    [Theory]
    [MemberData(nameof(Planted))]
    public void A_planted_fault_is_told_and_mended_and_before_there_was_silence(
        string check, string chart, Edit[] right, Edit[] wrong, string words, bool hasFix) =>
        PlantedFault.Look(check, chart, right, wrong, words, hasFix);

    [Fact]
    public void A_pad_with_a_port_of_its_own_and_its_group_with_another_are_told()
    {
        var song = Song.Of(CheckPattern.Of([TansyGrid.Chart], Tempo.Default));
        var split = StartingSplit.Of([TansyGrid.Chart], 4, 48000);
        PlantedFault.Look(
            split,
            song,
            "GroupAndElement",
            [new AssignPort(new(new UnitId("u1"), new ElementId("a1")), 2), Line("t1", "A1", 3), Line("t2", "Group A", 39)],
            [new SetGroup(new UnitId("u1"), new UnitGroup("Group A") { Port = 20 })],
            "A1 has port 2 of its own, while Group A leaves by port 20",
            true);

        static Edit Line(string id, string name, int input) =>
            new AddTrack(new Track(new TrackId(id), name, Width.Stereo) { Input = new InputRef(new BankId("b-u1"), input) });
    }

    [Fact]
    public void More_elements_than_ports_are_told_with_the_sum()
    {
        // Twelve parts and a return on four pairs: nine too few, four passes.
        var song = Song.Of(CheckPattern.Of([WickerKeys.Chart], Tempo.Default));
        var split = StartingSplit.Of([WickerKeys.Chart], 4, 48000);
        var finding = Assert.Single(Look(split, song), f => f.Check == "MoreLinesThanPorts");
        Assert.Contains("13 elements of Wicker Keys sound and it has 4 ports for them, 9 too few", finding.Sentence);
        Assert.Contains("print 4 passes", finding.Sentence);
        Assert.DoesNotContain(Look(Sessions.Kit.Split, Sessions.Kit.Song), f => f.Check == "MoreLinesThanPorts");
    }

    [Fact]
    public void Lines_are_counted_source_by_source_and_a_single_port_is_one_for_them()
    {
        var two = Two(SiskinMono.Chart, MudlarkNine.Chart);
        var song = Song.Of(CheckPattern.Of([SiskinMono.Chart, MudlarkNine.Chart], Tempo.Default));
        Assert.DoesNotContain(Look(two, song), f => f.Check == "MoreLinesThanPorts");
        var lead = SiskinMono.Chart.Elements[0];
        var (split, own) = Sessions.Laid(SiskinMono.Chart with { Elements = [lead, lead with { Id = new ElementId("second"), Name = "Second" }] });
        Assert.Equal("2 elements of Siskin Mono sound and it has 1 port for them, 1 too few: let some share a port, pan two mono ones hard apart on a pair, or print 2 passes.", Look(Sessions.After(split, [.. split.Tracks.Select(t => new RemoveTrack(t.Id))]), own).Single(f => f.Check == "MoreLinesThanPorts").Sentence);
    }

    [Fact]
    public void A_master_effect_is_told_only_of_a_source_whose_lines_are_recorded()
    {
        var both = Sessions.After(Sessions.Drums.Split, new AddUnit(SiskinMono.Chart));
        var song = Song.Of(CheckPattern.Of([MudlarkNine.Chart, SiskinMono.Chart], Tempo.Default));
        var lead = new Track(new TrackId("t90"), "Lead", Width.Mono) { Input = new InputRef(both.BankOf(both.Units[1]).Id, 1) };
        var recorded = Sessions.After(both, new AddTrack(lead));
        Assert.Contains(Look(recorded, song), f => f.Check == "MixOnly");
        var alone = Sessions.After(recorded, [.. Sessions.Drums.Split.Tracks.Select(t => new SetArmed(t.Id, false))]);
        Assert.DoesNotContain(Look(alone, song), f => f.Check == "MixOnly");
    }

    [Fact]
    public void Only_one_source_can_lead_and_only_one_that_can()
    {
        var two = Two(MudlarkNine.Chart, BrindleSix.Chart);
        Assert.DoesNotContain(Look(two, Song.Of(CheckPattern.Of([MudlarkNine.Chart], Tempo.Default))), f => f.Check == "Clock");
        var both = Sessions.After(two, new SetClock(new UnitId("u1"), ClockMode.Leads), new SetClock(new UnitId("u2"), ClockMode.Leads));
        var finding = Assert.Single(Look(both, Sessions.Drums.Song), f => f.Check == "Clock");
        Assert.Contains("Mudlark Nine and Brindle Six both lead", finding.Sentence);
        Assert.DoesNotContain(Look(Sessions.After(both, finding.Fix!), Sessions.Drums.Song), f => f.Check == "Clock");

        var deaf = MudlarkNine.Chart with { Clock = new ChartClock(Follows: false, Leads: false, StartStop: true) };
        var stubborn = Two(deaf, BrindleSix.Chart);
        Assert.Contains(Look(stubborn, Sessions.Drums.Song), f => f.Check == "Clock" && f.Sentence.Contains("cannot follow a clock"));
        Assert.DoesNotContain(Look(Sessions.After(stubborn, new SetClock(new UnitId("u1"), ClockMode.Free)), Sessions.Drums.Song), f => f.Check == "Clock");
        Assert.Contains(Look(Sessions.After(stubborn, new SetClock(new UnitId("u1"), ClockMode.Leads)), Sessions.Drums.Song), f => f.Check == "Clock" && f.Sentence.Contains("cannot lead"));
    }

    [Fact]
    public void Two_sources_of_one_name_are_told()
    {
        var two = Two(MudlarkNine.Chart, BrindleSix.Chart);
        Assert.DoesNotContain(Look(two, Sessions.Drums.Song), f => f.Check == "UnnamedUnits");
        var same = Sessions.After(two, new RenameUnit(new UnitId("u2"), "mudlark nine"));
        var finding = Assert.Single(Look(same, Sessions.Drums.Song), f => f.Check == "UnnamedUnits");
        Assert.True(finding.ToMend);
        Assert.Equal("mudlark nine 2", Sessions.After(same, finding.Fix!).Unit(new UnitId("u2"))!.Name);
    }

    [Fact]
    public void A_whole_group_on_one_port_is_meant()
    {
        var song = Song.Of(CheckPattern.Of([TansyGrid.Chart], Tempo.Default));
        var split = Sessions.After(
            StartingSplit.Of([TansyGrid.Chart], 4, 48000),
            new SetGroup(new UnitId("u1"), new UnitGroup("Group A") { Port = 2 }),
            new AddTrack(new Track(new TrackId("t1"), "Kicks", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 3) }));
        Assert.DoesNotContain(Look(split, song), f => f.Place == Place.OfPort(new UnitId("u1"), 2));

        // One pad of another group on the same port is not.
        Assert.Contains(Look(Sessions.After(split, new AssignPort(new(new UnitId("u1"), new ElementId("b1")), 2)), song), f => f.Check == "Merged" && f.Place == Place.OfPort(new UnitId("u1"), 2));
    }

    [Fact]
    public void A_finding_accepted_as_meant_stays_so_until_it_says_something_else()
    {
        var (split, song) = Sessions.Kit;
        var hot = Sessions.After(split, new SetFader(Sessions.Element(split, "tom1"), new Decibels(4)));
        var finding = Look(hot, song).Single(f => f.Check == "Fader");
        Assert.True(finding.ToMend);
        var meant = Sessions.After(hot, new AcceptFinding(new AcceptedFinding(finding.Key, finding.Sentence, "the fader is part of the performance")));
        var after = Look(meant, song).Single(f => f.Check == "Fader");
        Assert.False(after.ToMend);
        Assert.Equal("the fader is part of the performance", after.Accepted);
        Assert.Equal(after, Look(meant, song)[^1]);

        // Six decibels is another matter than four.
        Assert.True(Look(Sessions.After(meant, new SetFader(Sessions.Element(split, "tom1"), new Decibels(6))), song).Single(f => f.Check == "Fader").ToMend);
        Assert.True(Look(Sessions.After(meant, new UnacceptFinding(finding.Key)), song).Single(f => f.Check == "Fader").ToMend);
        Assert.Contains("1 to 200", new AcceptFinding(new AcceptedFinding(finding.Key, finding.Sentence, " ")).Apply(hot).Trouble);
    }

    [Fact]
    public void A_loop_cannot_be_accepted()
    {
        var (split, song) = Sessions.Drums;
        var loop = Sessions.After(split, new AddTrack(new Track(new TrackId("t90"), "Echo", Width.Mono) { Input = new InputRef(new BankId("buses"), 1), Bus = new InputRef(new BankId("buses"), 1) }));
        var finding = Look(loop, song).Single(f => f.Severity == Severity.Stop);
        var accepted = Sessions.After(loop, new AcceptFinding(new AcceptedFinding(finding.Key, finding.Sentence, "why not")));
        Assert.Null(Look(accepted, song).Single(f => f.Severity == Severity.Stop).Accepted);
    }

    private static Split Two(Chart first, Chart second) => StartingSplit.Of([first, second], 4, 48000);

    private static IReadOnlyList<Finding> Look(Split split, Song song) => AllChecks.Look(Sessions.View(split, song));

    private static IEnumerable<Edit> Shift(string chart, int step) =>
        Sessions.Laid(Shelf.Find(new ChartId(chart))!).Split.Tracks.Select(t => new SetTrackInput(t.Id, t.Input! with { Channel = t.Input.Channel + step }));
}

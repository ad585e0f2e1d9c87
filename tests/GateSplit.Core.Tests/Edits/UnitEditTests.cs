using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Edits;

/// <summary>Modes with restarts, declared outputs, groups, sources that come and go.</summary>
public sealed class UnitEditTests
{
    [Fact]
    public void A_mode_that_needs_a_restart_holds_only_after_it()
    {
        var split = StartingSplit.Of([BrindleSix.Chart], 4, 48000);
        var drums = new ElementRef(new UnitId("u1"), new ElementId("drums"));
        int[] Ports(Split s) => [.. SplitSignal.Of(s).PortsOf(drums).Select(f => f.Port)];
        Assert.Equal([1], Ports(split));
        var chosen = Sessions.After(split, new SetMode(new UnitId("u1"), new ModeId("full")));
        Assert.Equal([1], Ports(chosen)); // it goes on as before
        Assert.True(chosen.Unit(new UnitId("u1"))!.NeedsRestart);
        var restarted = Sessions.After(chosen, new MarkRestarted(new UnitId("u1")));
        Assert.Equal([1, 2], Ports(restarted));
        Assert.False(restarted.Unit(new UnitId("u1"))!.NeedsRestart);

        // Choosing back what is in force needs no restart.
        Assert.False(Sessions.After(chosen, new SetMode(new UnitId("u1"), new ModeId("stereo"))).Unit(new UnitId("u1"))!.NeedsRestart);
    }

    [Fact]
    public void Declared_outputs_count_upward_and_exist_after_a_reload()
    {
        var split = Sessions.After(
            StartingSplit.Of([FennelSampler.Chart], 4, 48000),
            new DeclarePorts(new UnitId("u1"), 2, Width.Stereo, "Pair", 2),
            new DeclarePorts(new UnitId("u1"), 3, Width.Mono, "Solo", 1));
        var unit = split.Unit(new UnitId("u1"))!;
        Assert.Equal(["Main", "Pair 2", "Pair 3", "Solo 1", "Solo 2", "Solo 3"], unit.Chart.Ports.Select(p => p.Name));
        Assert.Equal(["1-2", "3-4", "5-6", "7", "8", "9"], unit.Chart.Ports.Select(p => p.Channels));
        Assert.Equal(9, split.BankOf(unit).Count);
        var kick = new ElementRef(new UnitId("u1"), new ElementId("kick"));
        var assigned = Sessions.After(split, new AssignPort(kick, 4));
        Assert.Empty(SplitSignal.Of(assigned).PortsOf(kick));
        Assert.Equal(4, SplitSignal.Of(Sessions.After(assigned, new MarkRestarted(new UnitId("u1")))).PortsOf(kick).Single().Port);
        Assert.Null(SplitRules.Trouble(assigned));
        Assert.Contains("none can be declared", new DeclarePorts(new UnitId("u1"), 1, Width.Mono, "Out", 1).Apply(Sessions.Kit.Split).Trouble);
    }

    [Theory]
    [InlineData(1, 0, 1)]
    [InlineData(64, 999, 40)]
    [InlineData(0, 1, 1)]
    [InlineData(65, 1, 1)]
    [InlineData(1, -1, 1)]
    [InlineData(1, 1000, 1)]
    [InlineData(1, 1, 0)]
    [InlineData(1, 1, 41)]
    public void Outputs_are_declared_within_limits(int count, int from, int letters)
    {
        var declared = new DeclarePorts(new UnitId("u1"), count, Width.Mono, " " + new string('x', letters) + " ", from).Apply(StartingSplit.Of([FennelSampler.Chart], 4, 48000));
        var fits = count is 1 or 64 && from is >= 0 and <= 999 && letters is 1 or 40;
        Assert.Equal(fits ? null : "Declare 1 to 64 outputs at a time, with a name and a number to count from.", declared.Ok ? null : declared.Trouble);
        Assert.Equal(fits ? $"{new string('x', letters)} {from}" : null, declared.Value?.Units[0].Chart.Ports[1].Name);
    }

    [Fact]
    public void Outputs_are_declared_as_far_as_a_source_has_channels()
    {
        var split = StartingSplit.Of([FennelSampler.Chart], 4, 48000);
        DeclarePorts More(int count, Width width) => new(new UnitId("u1"), count, width, "More", 1);
        var full = Sessions.After(split, More(64, Width.Stereo), More(62, Width.Stereo), More(2, Width.Mono));
        Assert.Equal(ChartRules.MostChannels, full.Units[0].Chart.Channels);
        Assert.Equal("Fennel Sampler would have 257 channels; 256 are the most.", More(1, Width.Mono).Apply(full).Trouble);
        Assert.Equal(("Declare 2 stereo outputs of Fennel Sampler", "Declare 1 mono output of Fennel Sampler"), (More(2, Width.Stereo).Name(split), More(1, Width.Mono).Name(split)));
    }

    [Fact]
    public void An_element_follows_its_group_and_the_group_its_parent_with_their_faders()
    {
        var chart = TansyGrid.Chart with
        {
            Groups = [new ChartGroup("Group A") { Parent = "Drums" }, new ChartGroup("Drums"), .. TansyGrid.Chart.Groups.Skip(1)],
        };
        var split = StartingSplit.Of([chart], 4, 48000);
        var pad = new ElementRef(new UnitId("u1"), new ElementId("a1"));
        PortFeed Feed(params Edit[] edits) => SplitSignal.Of(Sessions.After(split, edits)).PortsOf(pad).Single();
        double Db(PortFeed feed) => 20 * Math.Log10(feed.Gain.Largest * Math.Sqrt(2)); // the pad is in the middle of a pair
        Assert.Equal(1, Feed().Port);
        var group = new SetGroup(new UnitId("u1"), new UnitGroup("Group A") { FaderDb = new Decibels(-4) });
        var parent = new SetGroup(new UnitId("u1"), new UnitGroup("Drums") { Port = 7, FaderDb = new Decibels(-5) });
        Assert.Equal(7, Feed(group, parent).Port);
        Assert.Equal(-9, Db(Feed(group, parent)), 1e-9);

        // A port of the nearer group ends the way there, and its own ends all of them.
        var nearer = new SetGroup(new UnitId("u1"), new UnitGroup("Group A") { Port = 3, FaderDb = new Decibels(-4) });
        Assert.Equal((3, -4.0), (Feed(nearer, parent).Port, Math.Round(Db(Feed(nearer, parent)), 9)));
        Assert.Equal((9, 0.0), (Feed(nearer, parent, new AssignPort(pad, 9)).Port, Math.Round(Db(Feed(nearer, parent, new AssignPort(pad, 9))), 9)));
        Assert.Equal(1, Feed(nearer, new SetFollowsGroup(pad, false)).Port);
        Assert.Empty(SplitSignal.Of(Sessions.After(split, new SetGroup(new UnitId("u1"), new UnitGroup("Group A") { Muted = true }))).PortsOf(pad));
    }

    [Fact]
    public void A_source_comes_and_goes_with_its_row_of_inputs()
    {
        var split = Sessions.Drums.Split;
        var two = Sessions.After(split, new AddUnit(MudlarkNine.Chart));
        Assert.Equal(["Mudlark Nine", "Mudlark Nine 2"], two.Units.Select(u => u.Name));
        Assert.Equal(["USB", "Mudlark USB", "Bus"], two.Banks.Select(b => b.Label));
        Assert.Null(SplitRules.Trouble(two));
        var gone = Sessions.After(two, new RemoveUnit(new UnitId("u1")));
        Assert.Equal(["u2"], gone.Units.Select(u => u.Id.Value));
        Assert.All(gone.Tracks, t => Assert.Null(t.Input));
        Assert.Null(SplitRules.Trouble(gone));
        Assert.Equal("u1", Sessions.After(gone, new AddUnit(WickerKeys.Chart)).Units[^1].Id.Value);
    }

    [Fact]
    public void A_newer_chart_keeps_the_settings_of_what_is_still_there()
    {
        var split = Sessions.After(Sessions.Kit.Split, new SetFader(new(new UnitId("u1"), new ElementId("hat")), new Decibels(-3)));
        var newer = OstlerKitRoom.Chart with
        {
            Elements = [.. OstlerKitRoom.Chart.Elements.Where(e => e.Id.Value != "ride"), new ChartElement(new ElementId("cowbell"), "Cowbell", Family.TomAndPercussion, ElementKind.Microphone, Width.Mono)],
            Ports = [.. OstlerKitRoom.Chart.Ports.Take(11)],
            Modes = [new ChartMode(new ModeId("all"), "Eleven outputs", [.. Enumerable.Range(1, 11)], NeedsRestart: false)],
        };
        Assert.Equal(
            ["New: 1 element (Cowbell).", "Gone: 1 element (Ride).", "Gone: 1 port (12, Out 12).", "Changed: 1 mode (Eleven outputs)."],
            ChartDifferences.Between(OstlerKitRoom.Chart, newer));
        Assert.Empty(ChartDifferences.Between(newer, ChartJson.Read(ChartJson.Write(newer)).Value!));
        var updated = Sessions.After(split, new UpdateChart(new UnitId("u1"), newer));
        var unit = updated.Unit(new UnitId("u1"))!;
        Assert.Equal(new Decibels(-3), unit.Element(new ElementId("hat")).FaderDb);
        Assert.Equal(split.Unit(new UnitId("u1"))!.Element(new ElementId("snare-top")).Port, unit.Element(new ElementId("snare-top")).Port);
        Assert.Null(unit.Element(new ElementId("hall")).Port); // it had the port that is gone
        Assert.Equal(22, updated.BankOf(unit).Count);
        Assert.Null(SplitRules.Trouble(updated));
    }

    [Fact]
    public void A_newer_chart_leaves_all_that_was_set_by_hand()
    {
        var id = new UnitId("u1");
        var (kick, unit) = (new ElementId("kick"), StartingSplit.Of([MudlarkNine.Chart], 4, 48000).Units[0]);
        unit = unit with
        {
            Name = "Left one",
            Clock = ClockMode.Free,
            Simulated = new SimulatedUnit { LatencyMs = 3, NotMade = [0] },
            Elements = [.. unit.Elements.Select(e => e.ElementId == kick ? e with { Pan = new Pan(0.5), Sounds = true, SendDb = new Decibels(-7) } : e)],
            Voices = [.. unit.Voices.Select(v => v with { TuneSemitones = 2 })],
        };
        unit = unit with { ModeId = unit.Chart.Modes[0].Id, ModeInForceId = unit.Chart.Modes[^1].Id };
        var split = StartingSplit.Of([MudlarkNine.Chart], 4, 48000).With(unit);
        Assert.Null(SplitRules.Trouble(split));
        var newer = MudlarkNine.Chart with { Gist = "Newer." };
        var updated = Sessions.After(split, new UpdateChart(id, newer)).Unit(id)!;
        Assert.Equal(SplitJson.Write(split.With(unit with { Chart = newer })), SplitJson.Write(split.With(updated)));
    }

    [Fact]
    public void Outputs_that_wait_to_be_loaded_go_with_those_that_a_newer_chart_lacks()
    {
        var split = Sessions.After(StartingSplit.Of([FennelSampler.Chart], 4, 48000), new DeclarePorts(new UnitId("u1"), 3, Width.Mono, "Out", 1));
        Assert.Equal([2, 3, 4], split.Units[0].UnloadedPorts);
        var chart = split.Units[0].Chart;
        var fewer = Sessions.After(split, new UpdateChart(new UnitId("u1"), chart with { Ports = [.. chart.Ports.Where(p => p.Number != 4)] }));
        Assert.Equal([2, 3], fewer.Units[0].UnloadedPorts);
    }

    [Fact]
    public void A_mode_that_a_newer_chart_lacks_gives_way_to_its_first()
    {
        var modes = MudlarkNine.Chart.Modes;
        var older = MudlarkNine.Chart with { Modes = [modes[0], modes[1], modes[1] with { Id = new ModeId("gone") }] };
        ModeId After(ModeId chosen) => Sessions.After(
            StartingSplit.Of([older], 4, 48000), new SetMode(new UnitId("u1"), chosen), new UpdateChart(new UnitId("u1"), MudlarkNine.Chart)).Units[0].ModeId;
        Assert.Equal((modes[1].Id, modes[0].Id), (After(modes[1].Id), After(new ModeId("gone"))));
    }

    [Fact]
    public void A_newer_chart_leaves_the_groups_it_still_has()
    {
        var (split, _) = Sessions.Laid(TansyGrid.Chart);
        var id = new UnitId("u1");
        split = Sessions.After(split, new SetGroup(id, new UnitGroup("Group A") { Port = 3, Muted = true }), new SetGroup(id, new UnitGroup("Group B") { Port = 4 }));
        var chart = split.Units[0].Chart;
        var gone = chart.Elements.Where(e => e.Group == "Group B").Select(e => e.Id).ToHashSet();
        var newer = chart with { Elements = [.. chart.Elements.Select(e => gone.Contains(e.Id) ? e with { Group = null } : e)], Groups = [.. chart.Groups.Where(g => g.Name != "Group B")] };
        var groups = Sessions.After(split, new UpdateChart(id, newer)).Units[0].Groups;
        Assert.Equal((3, true), (groups.Single(g => g.Name == "Group A").Port, groups.Single(g => g.Name == "Group A").Muted));
        Assert.DoesNotContain(groups, g => g.Name == "Group B");

        // A port that is gone is taken from its group, and a mode that is still there stays in force.
        var narrow = chart with { Ports = [.. chart.Ports.Where(p => p.Number != 3)], Modes = [.. chart.Modes.Select(m => m with { Ports = m.Ports.Remove(3) })] };
        var left = Sessions.After(split with { Units = [split.Units[0] with { Elements = [.. split.Units[0].Elements.Select(e => e with { Port = e.Port == 3 ? null : e.Port })] }] }, new UpdateChart(id, narrow)).Units[0];
        Assert.Equal(((int?)null, true, 4), (left.Group("Group A").Port, left.Group("Group A").Muted, left.Group("Group B").Port));
        Assert.Equal(split.Units[0].ModeId, left.ModeId);
    }

    [Fact]
    public void A_box_with_an_external_input_is_laid_as_six_pairs_and_two_mono_lines()
    {
        var (split, song) = Sessions.Laid(BrindleSix.Chart);
        split = Sessions.After(split, new MarkRestarted(new UnitId("u1")));
        Assert.Equal(["USB 3-4", "USB 5-6", "USB 7-8", "USB 9-10", "USB 11-12", "USB 13-14", "USB 15", "USB 16"], split.Tracks.Select(split.InputName));
        Assert.DoesNotContain(GateSplit.Core.Checks.AllChecks.Look(Sessions.View(split, song)), f => f.ToMend);
    }

    [Fact]
    public void An_external_input_is_one_stereo_element_or_two_mono_ones()
    {
        var two = StartingSplit.Of([BrindleSix.Chart], 4, 48000);
        var one = Sessions.After(two, new JoinExternals(new UnitId("u1"), true));
        var both = Assert.Single(one.Units[0].Chart.Elements, e => e.Kind == ElementKind.External);
        Assert.Equal(("External", Width.Stereo, Pan.Centre), (both.Name, both.Width, both.Pan));
        Assert.Equal([Pan.HardLeft, Pan.HardRight], both.Hears.Select(h => h.Pan));
        Assert.Equal((Pan.Centre, (Pan?)null), (one.Units[0].Element(both.Id).Pan, one.Units[0].Element(both.Id).MusicalPan));
        Assert.Null(ChartRules.Trouble(one.Units[0].Chart));
        Assert.False(new JoinExternals(new UnitId("u1"), true).Apply(one).Ok);

        // What stands at the port is the same: each box on its side.
        var apart = Sessions.After(one, new JoinExternals(new UnitId("u1"), false));
        Assert.Equal(["External left", "External right"], apart.Units[0].Chart.Elements.Where(e => e.Kind == ElementKind.External).Select(e => e.Name));
        Assert.Equal(
            two.Units[0].Chart.Elements.Where(e => e.Kind == ElementKind.External).SelectMany(e => e.Hears.Select(h => h.VoiceId)),
            apart.Units[0].Chart.Elements.Where(e => e.Kind == ElementKind.External).SelectMany(e => e.Hears.Select(h => h.VoiceId)));
        Assert.False(new JoinExternals(new UnitId("u1"), false).Apply(two).Ok);
        Assert.Null(SplitRules.Trouble(one));
        Assert.Null(SplitRules.Trouble(apart));
    }

    [Fact]
    public void An_external_input_that_is_joined_and_parted_leaves_no_track_over_and_no_name_wrong()
    {
        var (split, song) = Sessions.Laid(BrindleSix.Chart);
        split = Sessions.After(split, new MarkRestarted(new UnitId("u1")));
        var one = Sessions.After(split, new JoinExternals(new UnitId("u1"), true));
        var track = Assert.Single(one.Tracks, t => t.Name.StartsWith("External", StringComparison.Ordinal));
        Assert.Equal(("External", Width.Stereo, "USB 15-16"), (track.Name, track.Width, one.InputName(track)));
        Assert.Equal(split.Tracks.Length - 1, one.Tracks.Length);
        Assert.DoesNotContain(GateSplit.Core.Checks.AllChecks.Look(Sessions.View(one, song)), f => f.ToMend);

        var two = Sessions.After(one, new JoinExternals(new UnitId("u1"), false));
        Assert.Equal(split.Tracks.Select(t => (t.Name, split.InputName(t), t.Width)), two.Tracks.Select(t => (t.Name, two.InputName(t), t.Width)));
        Assert.DoesNotContain(GateSplit.Core.Checks.AllChecks.Look(Sessions.View(two, song)), f => f.ToMend);
        Assert.All(two.Tracks, t => Assert.False(Sessions.View(two, song).MeaningOf(t).IsOpen));

        // A track that somebody has named keeps that name.
        var named = Sessions.After(split, new RenameTrack(split.Tracks.First(t => t.Name == "External left").Id, "Guest"));
        Assert.Equal(["Guest"], Sessions.After(named, new JoinExternals(new UnitId("u1"), true)).Tracks.Select(t => t.Name).Except(split.Tracks.Select(t => t.Name)));
    }

    [Fact]
    public void Removing_a_source_takes_its_own_tracks_along_if_that_is_asked()
    {
        var split = Sessions.After(Sessions.Drums.Split, new AddUnit(SiskinMono.Chart), new AddTrack(new Track(new TrackId("t70"), "Line", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 4) }), new AddTrack(new Track(new TrackId("t71"), "Both", Width.Mono) { MeantFor = [Meant.For(new(new UnitId("u1"), new ElementId("kick"))), Meant.For(new(new UnitId("u2"), new ElementId("lead")))] }));
        Assert.Equal(Sessions.Drums.Split.Tracks.Length + 1, RemoveUnit.Tracks(split, new UnitId("u1"))); // and one nobody has said anything of
        var without = Sessions.After(split, new RemoveUnit(new UnitId("u1"), WithTracks: true));
        Assert.Equal(["t71"], without.Tracks.Select(t => t.Id.Value));
        Assert.Equal(split.Tracks.Length, Sessions.After(split, new RemoveUnit(new UnitId("u1"))).Tracks.Length);
        Assert.Equal($"Remove Mudlark Nine and its {Sessions.Drums.Split.Tracks.Length + 1} tracks", new RemoveUnit(new UnitId("u1"), WithTracks: true).Name(split));
    }

    [Fact]
    public void Notes_that_two_copies_hear_are_given_to_one()
    {
        var song = Sessions.Drums.Song;
        var split = Sessions.After(Sessions.Drums.Split, new AddUnit(MudlarkNine.Chart), new AddUnit(SiskinMono.Chart));
        Assert.Contains(Sessions.View(split, song).SoundingElements, e => e.Unit.Id.Value == "u2");
        var given = Sessions.After(split, new GiveNotes(new UnitId("u1"), [.. song.Strokes.Keys.Select(s => s.Channel).Distinct()]));
        Assert.DoesNotContain(Sessions.View(given, song).SoundingElements, e => e.Unit.Id.Value == "u2" && e.Chart.Kind != ElementKind.Return);
        Assert.Empty(given.Units[2].NoteRoutes); // another kind of source is left alone
        Assert.DoesNotContain(GateSplit.Core.Checks.AllChecks.Look(Sessions.View(given, song)), f => f.Check == "OldCopy");
        var back = Sessions.After(given, new GiveNotes(new UnitId("u2"), [10]));
        Assert.Contains(Sessions.View(back, song).SoundingElements, e => e.Unit.Id.Value == "u2");
        Assert.DoesNotContain(Sessions.View(back, song).SoundingElements, e => e.Unit.Id.Value == "u1" && e.Chart.Kind != ElementKind.Return);
    }

    [Fact]
    public void Which_of_two_copies_is_the_old_one_is_asked_where_tracks_take_both()
    {
        var (split, song) = Sessions.Drums;
        var two = Sessions.After(split, new AddUnit(MudlarkNine.Chart));
        two = Sessions.After(two, new AddTrack(new Track(new TrackId("t60"), "Kick two", Width.Mono) { Input = new InputRef(new BankId("b-u2"), 3), MeantFor = [Meant.For(new(new UnitId("u2"), new ElementId("kick")))] }));
        var told = Assert.Single(GateSplit.Core.Checks.AllChecks.Look(Sessions.View(two, song)), f => f.Check == "OldCopy");
        Assert.Equal((GateSplit.Core.Views.Severity.Note, null), (told.Severity, told.Fix));
        Assert.Contains("tracks take both. If one of them is an old copy, remove it", told.Sentence, StringComparison.Ordinal);

        // The one with fewer armed tracks is asked about, and the one with none at all is the old one.
        var turned = Sessions.After(two, [.. split.Tracks.Select(t => (Edit)new SetArmed(t.Id, false))]);
        var old = Assert.Single(GateSplit.Core.Checks.AllChecks.Look(Sessions.View(turned, song)), f => f.Check == "OldCopy");
        Assert.Equal("Remove Mudlark Nine and its 9 tracks", old.FixLabel);
    }

    [Theory]
    [InlineData(1, 1, false)] // one line each, one of them not armed: a slip, perhaps
    [InlineData(2, 1, false)]
    [InlineData(3, 1, true)] // most of its lines are gone
    [InlineData(3, 2, true)] // nobody forgets to arm several
    [InlineData(1, 0, true)]
    public void A_copy_whose_one_line_is_not_armed_is_not_called_the_old_one_for_it(int current, int other, bool sure)
    {
        var song = Sessions.Drums.Song;
        var split = StartingSplit.Of([MudlarkNine.Chart, MudlarkNine.Chart], 4, 48000);
        Edit[] Lines(int unit, int count, bool armed) =>
        [
            .. Enumerable.Range(0, count).Select(n => new AddTrack(new Track(new TrackId($"t{10 * unit + n}"), $"Line {unit} {n}", Width.Mono)
            {
                Armed = armed, MeantFor = [Meant.For(new(new UnitId($"u{unit}"), MudlarkNine.Chart.Elements[1 + n].Id))],
            })),
        ];
        split = Sessions.After(split, [.. Lines(1, current, true), .. Lines(2, other, false)]);
        var told = Assert.Single(GateSplit.Core.Checks.AllChecks.Look(Sessions.View(split, song)), f => f.Check == "OldCopy");
        Assert.Equal((GateSplit.Core.Views.Place.Of(new UnitId("u2")), sure), (told.Place, told.Fix is RemoveUnit));
    }

    [Fact]
    public void An_element_leaves_with_its_own_effect_or_without_it()
    {
        var split = StartingSplit.Of([FennelSampler.Chart], 4, 48000);
        Assert.True(Sessions.After(split, new SetInsert(new ElementRef(new UnitId("u1"), new ElementId("clap")), false)).Units[0].Element(new ElementId("clap")).InsertOff);
        Assert.False(new SetInsert(new ElementRef(new UnitId("u1"), new ElementId("kick")), false).Apply(split).Ok);
    }

    [Fact]
    public void What_belonged_to_something_that_is_gone_goes_with_it()
    {
        var external = new ElementRef(new UnitId("u2"), new ElementId("ext-left"));
        var input = new InputRef(new BankId("b-u2"), 15);
        var split = Sessions.After(
            StartingSplit.Of([MudlarkNine.Chart, BrindleSix.Chart], 8, 48000),
            new SetRide(new Ride(external, RideControl.Level, [new RidePoint(7, -6)])),
            new TickLine(external, "its way"),
            new MakeSetting(new UnitId("u2"), 3, false),
            new SetSimulatedInterface(new SimulatedInterface { Crossed = [new(input, new InputRef(new BankId("b-u1"), 3))] }));
        Assert.Null(SplitRules.Trouble(split));

        // A shorter pass leaves the ride as it is, and the session can still be taken elsewhere.
        var shorter = Sessions.After(split, new SetPass(split.Pass with { LengthBars = 2 }));
        Assert.Equal((1, (string?)null), (shorter.Rides.Length, SplitRules.Trouble(shorter)));

        var removed = Sessions.After(split, new RemoveUnit(new UnitId("u2")));
        Assert.Equal((0, 0, 0, (string?)null), (removed.Rides.Length, removed.Ticked.Length, removed.Interface.Crossed.Length, SplitRules.Trouble(removed)));
        var updated = Sessions.After(split, new UpdateChart(new UnitId("u2"), BrindleSix.Chart with { Settings = [BrindleSix.Chart.Settings[0]] }));
        Assert.Equal((1, 0, (string?)null), (updated.Rides.Length, updated.Unit(new UnitId("u2"))!.Simulated.NotMade.Length, SplitRules.Trouble(updated)));
    }
}

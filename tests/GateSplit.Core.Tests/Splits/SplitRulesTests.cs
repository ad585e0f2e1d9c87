using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Splits;

/// <summary>What no split can hold, each at its very edge: the last value that fits, and the first that does not.</summary>
public sealed class SplitRulesTests
{
    private static readonly Split Boat = ReliefBoat.Session.Split;
    private static readonly Split Fog = FogSignal.Session.Split;

    /// <summary>What is put where: it fits, or the place where it does not.</summary>
    public static TheoryData<string, Func<Split, Split>, string?> Edges
    {
        get
        {
            var edges = new TheoryData<string, Func<Split, Split>, string?>();
            void Track(string what, Func<Track, Track> change, string? place) => edges.Add(what, s => s.With(change(s.Tracks[0])), place is null ? null : $"split.tracks[0].{place}");
            void Element(string what, Func<UnitElement, UnitElement> change, string? place) =>
                edges.Add(what, s => s.With(s.Units[0].Id, change(s.Units[0].Elements[0])), place is null ? null : $"split.units[0].elements[0].{place}");
            void Pass(string what, Func<PassSettings, PassSettings> change, string? place) => edges.Add(what, s => s with { Pass = change(s.Pass) }, place is null ? null : $"split.pass.{place}");
            void Unit(string what, Func<Unit, Unit> change, string? place) => edges.Add(what, s => s.With(change(s.Units[0])), place is null ? null : $"split.units[0].{place}");
            void Bank(string what, Func<Bank, Bank> change, string? place) => edges.Add(what, s => s.With(change(s.Banks[^1])), place is null ? null : $"split.banks[{Boat.Banks.Length - 1}].{place}");
            void Rig(string what, Func<SimulatedInterface, SimulatedInterface> change, string? place) =>
                edges.Add(what, s => s with { Interface = change(s.Interface) }, place is null ? null : $"split.interface{place}");

            foreach (var (db, fits) in new[] { (-120.0, true), (-120.01, false), (12, true), (12.01, false), (5000, false), (9000, false), (double.NaN, false), (double.PositiveInfinity, false) })
            {
                Track($"level {db}", t => t with { LevelDb = new Decibels(db) }, fits ? null : "levelDb");
                Element($"fader {db}", e => e with { FaderDb = new Decibels(db) }, fits ? null : "faderDb");
                Element($"bleed {db}", e => e with { BleedDb = new Decibels(db) }, fits ? null : "bleedDb");
                Element($"send {db}", e => e with { SendDb = new Decibels(db) }, fits ? null : "sendDb");
            }

            foreach (var (pan, fits) in new[] { (-1.0, true), (-1.01, false), (1, true), (1.01, false), (50, false), (double.NaN, false) })
            {
                Track($"pan {pan}", t => t with { Pan = new Pan(pan) }, fits ? null : "pan");
                Element($"pan {pan}", e => e with { Pan = new Pan(pan) }, fits ? null : "pan");
                Element($"musical pan {pan}", e => e with { MusicalPan = new Pan(pan) }, fits ? null : "pan");
                Element($"send pan {pan}", e => e with { SendPan = new Pan(pan) }, fits ? null : "sendDb");
            }

            foreach (var (pass, fits) in new[] { (1, true), (0, false), (64, true), (65, false) })
            {
                Track($"pass {pass}", t => t with { Pass = pass }, fits ? null : "pass");
                Element($"pass {pass}", e => e with { Pass = pass }, fits ? null : "pass");
            }

            foreach (var width in new[] { (Width)0, (Width)3, (Width)7 })
            {
                Track($"width {width}", t => t with { Width = width }, "width");
            }

            Track("monitor 99", t => t with { Monitor = (MonitorMode)99 }, "monitor");
            Track("a name of 80 letters", t => t with { Name = new string('x', 80) }, null);
            Track("a name of 81 letters", t => t with { Name = new string('x', 81) }, "name");
            Track("a name of two lines", t => t with { Name = "a\nb" }, "name");
            Track("no name", t => t with { Name = "" }, null); // a finding tells it
            Track("input -5", t => t with { Input = t.Input! with { Channel = -5 } }, "input");
            Track("input 0", t => t with { Input = t.Input! with { Channel = 0 } }, "input");
            Track("a bus that is a socket", t => t with { Bus = t.Input }, "bus");
            Track("a group that is gone", t => t with { GroupId = new TrackGroupId("g9") }, "groupId");
            Unit("a name of two lines", u => u with { Name = "a\tb" }, "name");
            Unit("no name", u => u with { Name = " " }, "name");
            Unit("a mode that is gone", u => u with { ModeId = new ModeId("gone") }, "modeId");
            Unit("a mode in force that is gone", u => u with { ModeInForceId = new ModeId("gone") }, "modeInForceId");
            Unit("clock 7", u => u with { Clock = (ClockMode)7 }, "clock");
            Unit("a port to load twice", u => u with { UnloadedPorts = [1, 1] }, "unloadedPorts");
            Unit("a port to load", u => u with { UnloadedPorts = [1] }, null);
            Unit("a setting twice", u => u with { Simulated = u.Simulated with { NotMade = [0, 0] } }, "simulated.notMade");
            Unit("a setting before the first", u => u with { Simulated = u.Simulated with { NotMade = [-1] } }, "simulated.notMade");
            Unit("a port to load that is not there", u => u with { UnloadedPorts = [99] }, "unloadedPorts");
            Unit("an element twice", u => u with { Elements = u.Elements.Add(u.Elements[0]) }, "elements");
            Unit("an element in another's place", u => u with { Elements = u.Elements.SetItem(1, u.Elements[0]) }, "elements");
            Unit("an element missing", u => u with { Elements = u.Elements[1..] }, "elements");
            Unit("a voice missing", u => u with { Voices = u.Voices[1..] }, "elements");
            Unit("a setting that is not there", u => u with { Simulated = u.Simulated with { NotMade = [u.Chart.Settings.Length] } }, "simulated.notMade");
            Unit("the last setting", u => u with { Simulated = u.Simulated with { NotMade = [u.Chart.Settings.Length - 1] } }, null);
            Unit("a latency of 501 ms", u => u with { Simulated = u.Simulated with { LatencyMs = 501 } }, "simulated");
            Unit("a tune of 25", u => u with { Voices = u.Voices.SetItem(0, u.Voices[0] with { TuneSemitones = 25 }) }, "voices[0]");
            Unit("a decay of 4", u => u with { Voices = u.Voices.SetItem(0, u.Voices[0] with { DecayScale = 4 }) }, null);
            Unit("a decay of 4.1", u => u with { Voices = u.Voices.SetItem(0, u.Voices[0] with { DecayScale = 4.1 }) }, "voices[0]");
            Element("a port its chart lacks", e => e with { Port = 77 }, "port");
            Bank("an input off that is not there", b => b with { Off = [b.Count + 1] }, "off");
            Bank("an input off twice", b => b with { Off = [1, 1] }, "off");
            Bank("the last input off", b => b with { Off = [b.Count] }, null);
            Bank("no inputs", b => b with { Count = 0, Off = [] }, "count");
            Bank("a kind of its own", b => b with { Kind = (BankKind)40 }, "");
            Bank("a label of 41", b => b with { Label = new string('x', 41) }, "label");
            Bank("outboard on sockets", b => b with { OutboardDb = new Decibels(1) }, "outboardDb");
            Bank("a delay of -1", b => b with { DelaySamples = -1 }, "delaySamples");
            Pass("no bars", p => p with { LengthBars = 0 }, "lengthBars");
            Pass("2000 bars", p => p with { LengthBars = 2000 }, null);
            Pass("2001 bars", p => p with { LengthBars = 2001 }, "lengthBars");
            Pass("from behind its end", p => p with { StartBar = p.LengthBars + 1 }, "startBar");
            Pass("from its last bar", p => p with { StartBar = p.LengthBars }, null);
            Pass("a count-in of 5", p => p with { CountInBars = 5 }, "countInBars");
            Pass("a tail that is no number", p => p with { TailSeconds = double.NaN }, "tailSeconds");
            Pass("a tail of 60.1", p => p with { TailSeconds = 60.1 }, "tailSeconds");
            Pass("8 bit", p => p with { Format = SampleFormat.Pcm8 }, "format");
            Pass("48001 Hz", p => p with { SampleRate = 48001 }, "sampleRate");
            Pass("a target of 0.1", p => p with { TargetPeakDb = new Decibels(0.1) }, "targetPeakDb");
            Pass("no bytes a second", p => p with { DiskBytesPerSecond = 0 }, "diskBytesPerSecond");
            foreach (var (ms, latency, offset, drift, jitter) in new[] { (-2000.1, false, false, false, false), (-2000, false, true, false, false), (-500.1, false, true, false, false), (-500, false, true, true, false), (-0.1, false, true, true, false), (0, true, true, true, true), (20, true, true, true, true), (20.1, true, true, true, false), (500, true, true, true, false), (500.1, false, true, false, false), (2000, false, true, false, false), (2000.1, false, false, false, false) })
            {
                Unit($"latency {ms}", u => u with { Simulated = u.Simulated with { LatencyMs = ms } }, latency ? null : "simulated");
                Unit($"offset {ms}", u => u with { Simulated = u.Simulated with { OffsetMs = ms } }, offset ? null : "simulated");
                Unit($"drift {ms}", u => u with { Simulated = u.Simulated with { DriftPpm = ms } }, drift ? null : "simulated");
                Unit($"jitter {ms}", u => u with { Simulated = u.Simulated with { JitterMs = ms } }, jitter ? null : "simulated");
            }

            foreach (var (value, tune, decay, level) in new[] { (-60.1, false, false, false), (-60, false, false, true), (-24.1, false, false, true), (-24, true, false, true), (0.09, true, false, true), (0.1, true, true, true), (4, true, true, true), (4.1, true, false, true), (12, true, false, true), (12.1, true, false, false), (24, true, false, false), (24.1, false, false, false) })
            {
                Unit($"tune {value}", u => u with { Voices = u.Voices.SetItem(0, u.Voices[0] with { TuneSemitones = value }) }, tune ? null : "voices[0]");
                Unit($"decay {value}", u => u with { Voices = u.Voices.SetItem(0, u.Voices[0] with { DecayScale = value }) }, decay ? null : "voices[0]");
                Unit($"voice level {value}", u => u with { Voices = u.Voices.SetItem(0, u.Voices[0] with { LevelDb = new Decibels(value) }) }, level ? null : "voices[0]");
            }

            foreach (var (value, db, drive, noise) in new[] { (-140.1, false, false, false), (-140, false, false, true), (-60.1, false, false, true), (-60, true, false, true), (-30, true, false, true), (-29.9, true, false, false), (-0.1, true, false, false), (0, true, true, false), (10, true, true, false), (10.1, true, false, false), (30, true, false, false), (30.1, false, false, false) })
            {
                Bank($"outboard of {value}", b => b with { Kind = BankKind.Loopback, OutboardDb = new Decibels(value) }, db ? null : "outboardDb");
                Bank($"outboard driven by {value}", b => b with { Kind = BankKind.Loopback, OutboardDrive = value }, drive ? null : "outboardDb");
                Bank($"outboard noise of {value}", b => b with { Kind = BankKind.Loopback, OutboardNoiseDb = new Decibels(value) }, noise ? null : "outboardNoiseDb");
            }

            Bank("a drive on sockets", b => b with { OutboardDrive = 1 }, "outboardDb");
            Bank("noise on sockets", b => b with { OutboardNoiseDb = new Decibels(-60) }, "outboardNoiseDb");
            Bank("256 inputs", b => b with { Count = 256 }, null);
            Bank("257 inputs", b => b with { Count = 257 }, "count");
            Bank("input 0 off", b => b with { Off = [0] }, "off");
            Bank("the first input off", b => b with { Off = [1] }, null);
            Bank("a label of 40", b => b with { Label = new string('x', 40) }, null);
            Bank("a delay of 48000", b => b with { DelaySamples = 48_000 }, null);
            Bank("a delay of 48001", b => b with { DelaySamples = 48_001 }, "delaySamples");
            Bank("a width of its own", b => b with { Widths = (InputWidths)40 }, "");
            Pass("1 bar", p => p with { LengthBars = 1, StartBar = 1 }, null);
            Pass("from bar 0", p => p with { StartBar = 0 }, "startBar");
            foreach (var (number, countIn, settle) in new[] { (-1, false, false), (0, true, true), (4, true, true), (5, false, true), (8, false, true), (9, false, false) })
            {
                Pass($"{number} bars counted in", p => p with { CountInBars = number }, countIn ? null : "countInBars");
                Pass($"{number} rounds to settle", p => p with { SettleLoops = number }, settle ? null : "settleLoops");
            }

            Pass("a tail of -0.1", p => p with { TailSeconds = -0.1 }, "tailSeconds");
            Pass("a tail of 0", p => p with { TailSeconds = 0 }, null);
            Pass("a tail of 60", p => p with { TailSeconds = 60 }, null);
            Pass("a target of 0", p => p with { TargetPeakDb = new Decibels(0) }, null);
            Pass("a target of -40", p => p with { TargetPeakDb = new Decibels(-40) }, null);
            Pass("a target of -40.1", p => p with { TargetPeakDb = new Decibels(-40.1) }, "targetPeakDb");
            Pass("a byte a second", p => p with { DiskBytesPerSecond = 1, InterfaceBytesPerSecond = 1 }, null);
            Pass("no bytes a second over the interface", p => p with { InterfaceBytesPerSecond = 0 }, "diskBytesPerSecond");
            Rig("latency of -1", i => i with { LatencySamples = -1 }, "");
            Rig("latency of 10000", i => i with { LatencySamples = 10_000 }, null);
            Rig("latency of 10001", i => i with { LatencySamples = 10_001 }, "");
            Rig("a round trip of -1", i => i with { RoundTripSamples = -1 }, "");
            Rig("a round trip of 0", i => i with { RoundTripSamples = 0 }, null);
            Rig("a round trip of 48000", i => i with { RoundTripSamples = 48_000 }, null);
            Rig("a round trip of 48001", i => i with { RoundTripSamples = 48_001 }, "");
            Rig("noise of -140", i => i with { NoiseDb = new Decibels(-140) }, null);
            Rig("noise of -141", i => i with { NoiseDb = new Decibels(-141) }, "");
            Rig("noise of -29", i => i with { NoiseDb = new Decibels(-29) }, "");
            Rig("noise of -30", i => i with { NoiseDb = new Decibels(-30) }, null);
            Rig("a cable crossed with nothing", i => i with { Crossed = [new CrossedInputs(new InputRef(Boat.Banks[0].Id, 1), new InputRef(new BankId("attic"), 1))] }, ".crossed");
            Rig("a cable crossed with itself", i => i with { Crossed = [new CrossedInputs(new InputRef(Boat.Banks[0].Id, 1), new InputRef(Boat.Banks[0].Id, 1))] }, ".crossed");
            return edges;
        }
    }

    [Theory]
    [MemberData(nameof(Edges))]
    public void The_edge_is_where_it_is_said_to_be(string what, Func<Split, Split> change, string? place)
    {
        var misfit = SplitRules.FirstMisfit(change(Boat));
        Assert.True(place is null ? misfit is null : misfit?.Place == place.TrimEnd('.'), $"{what}: {misfit}");
        Assert.True(misfit is null || misfit.Value.Sentence.EndsWith('.'), $"{misfit}");
        Assert.Equal(misfit, SplitRules.FirstMisfit(change(Boat), Boat)); // seen from the split it was made from
    }

    [Fact]
    public void Two_rows_of_one_source_and_everything_else_that_is_there_twice_is_refused()
    {
        string? Told(Split split) => SplitRules.Trouble(split);
        Assert.Null(Told(Boat));
        Assert.Contains("two rows of inputs of the source u1", Told(Boat with { Banks = Boat.Banks.Add(Boat.Banks[0] with { Id = new BankId("again") }) }));
        Assert.Contains("two sources with the id u1", Told(Boat with { Units = Boat.Units.Add(Boat.Units[0]) }));
        Assert.Contains("two tracks with the id", Told(Boat with { Tracks = Boat.Tracks.Add(Boat.Tracks[0]) }));
        Assert.Contains("This cable is there twice", Told(Boat with { Cables = Boat.Cables.Add(Boat.Cables[0]) }));
        Assert.Contains("There is no row of inputs for", Told(Boat with { Banks = Boat.Banks.RemoveAll(b => b.UnitId is not null) }));
        Assert.Contains("There is no source", Told(Boat with { Banks = Boat.Banks.Add(new Bank(new BankId("b-u9"), "U", BankKind.Usb, 2, new UnitId("u9"))) }));
        var group = new TrackGroup(new TrackGroupId("g1"), "Low", true);
        Assert.Contains("two groups with the id g1", Told(Boat with { TrackGroups = [group, group with { Name = "High" }] }));
        Assert.Contains("a group of this name already", Told(Boat with { TrackGroups = [group, new TrackGroup(new TrackGroupId("g2"), "LOW", true)] }));
        var ride = new Ride(new ElementRef(Boat.Units[0].Id, Boat.Units[0].Elements[0].ElementId), RideControl.Level, [new RidePoint(1, 0), new RidePoint(2, -6)]);
        Assert.Null(Told(Boat with { Rides = [ride] }));
        Assert.Contains("one ride", Told(Boat with { Rides = [ride, ride] }));
        Assert.Contains("order of time", Told(Boat with { Rides = [ride with { Points = [ride.Points[1], ride.Points[0]] }] }));
        Assert.Contains("up to 4000 points", Told(Boat with { Rides = [ride with { Points = [] }] }));
        Assert.Contains("a line is ticked once", Told(Boat with { Ticked = [new TickedLine(ride.Element, "a"), new TickedLine(ride.Element, "b")] }), StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public void Lists_that_are_not_there_or_have_gaps_are_told_before_anything_else()
    {
        Assert.Equal("split.units[1]", SplitRules.FirstMisfit(Boat with { Units = Boat.Units.Add(null!) })!.Value.Place);
        Assert.Equal("split.tracks", SplitRules.FirstMisfit(Boat with { Tracks = default })!.Value.Place);
        Assert.Equal("split.pass", SplitRules.FirstMisfit(Boat with { Pass = null! })!.Value.Place);
        Assert.Equal("split.interface", SplitRules.FirstMisfit(Boat with { Interface = null! })!.Value.Place);
        Assert.Equal("split.units[0].chart", SplitRules.FirstMisfit(Boat.With(Boat.Units[0] with { Chart = null! }))!.Value.Place);
        var many = Enumerable.Range(1, 257).Select(n => new Track(new TrackId(n), "T", Width.Mono));
        Assert.Equal("split.tracks", SplitRules.FirstMisfit(Boat with { Tracks = [.. many] })!.Value.Place);
        Assert.Null(SplitRules.FirstMisfit(Boat with { Tracks = [.. many.Take(256)] }));
    }

    [Theory]
    [InlineData(RideControl.Level, -60, 12)]
    [InlineData(RideControl.Send, -60, 12)]
    [InlineData(RideControl.Filter, 100, 20000)]
    [InlineData(RideControl.Tune, -24, 24)]
    [InlineData(RideControl.Decay, 0.1, 4)]
    [InlineData(RideControl.Mute, 0, 1)]
    public void A_ride_goes_as_far_as_its_control_and_from_the_first_bar_to_the_end_of_the_longest_pass(RideControl control, double low, double high)
    {
        bool Fits(double bar, double value) => SplitRules.FirstMisfit(Boat with { Rides = [new Ride(new ElementRef(Boat.Units[0].Id, Boat.Units[0].Elements[0].ElementId), control, [new RidePoint(bar, value)])] }) is null;
        Assert.Equal((false, true, true, false), (Fits(1, low - 0.01), Fits(1, low), Fits(1, high), Fits(1, high + 0.01)));
        Assert.Equal((false, true, true, false), (Fits(0.99, low), Fits(1, low), Fits(2001, low), Fits(2001.01, low)));
        Assert.False(Fits(double.NaN, low) || Fits(1, double.NaN));
        Assert.True(Fits(1, Ride.Rest(control)));
        Assert.Equal(control is RideControl.Filter ? high : control is RideControl.Decay ? 1 : 0, Ride.Rest(control));
    }

    [Theory]
    [InlineData(StepKind.Roll, 16)]
    [InlineData(StepKind.Repeat, 32)]
    [InlineData(StepKind.Variation, 2000)]
    public void A_step_begins_before_it_ends_and_has_as_many_strokes_as_its_kind_allows(StepKind kind, int most)
    {
        string? Told(double from, double to, int number) =>
            SplitRules.FirstMisfit(Boat with { Steps = [new PerformedStep(new ElementRef(Boat.Units[0].Id, Boat.Units[0].Elements[0].ElementId), kind, from, to, number)] })?.Place;
        Assert.Equal(("split.steps[0].number", null, null, "split.steps[0].number"), (Told(1, 2, 0), Told(1, 2, 1), Told(1, 2, most), Told(1, 2, most + 1)));
        Assert.Equal(("split.steps[0]", null, "split.steps[0]", null, "split.steps[0]"), (Told(0.9, 2, 1), Told(1, 2001, 1), Told(1, 2001.1, 1), Told(1.9, 2, 1), Told(2, 2, 1)));
    }

    [Fact]
    public void A_group_of_tracks_and_a_group_of_a_source_have_their_edges_too()
    {
        var buses = Boat.Banks.First(b => b.Kind == BankKind.Buses);
        string? Told(Func<TrackGroup, TrackGroup> change) => SplitRules.FirstMisfit(Boat with { TrackGroups = [change(new TrackGroup(new TrackGroupId("g1"), "Low", true))] })?.Place;
        Assert.Null(Told(g => g with { Bus = new InputRef(buses.Id, buses.Count - 1), LevelDb = new Decibels(12) }));
        Assert.Equal("split.trackGroups[0].bus", Told(g => g with { Bus = new InputRef(buses.Id, buses.Count) })); // it is a pair
        Assert.Equal("split.trackGroups[0].bus", Told(g => g with { Bus = new InputRef(Boat.Banks[0].Id, 1) }));
        Assert.Equal("split.trackGroups[0].levelDb", Told(g => g with { LevelDb = new Decibels(12.1) }));
        Assert.Equal("split.trackGroups[0].name", Told(g => g with { Name = " " }));
        Assert.Null(Told(g => g with { Name = new string('x', 80) }));
        Assert.Equal("split.trackGroups[0].name", Told(g => g with { Name = new string('x', 81) }));
        Assert.Equal("split.trackGroups[0].id", Told(g => g with { Id = new TrackGroupId("G 1") }));
        var grid = Sessions.Laid(TansyGrid.Chart).Split;
        string? OfUnit(UnitGroup group) => SplitRules.FirstMisfit(grid.With(grid.Units[0] with { Groups = [group] }))?.Place;
        Assert.Null(OfUnit(new UnitGroup("Group A") { Port = 20, FaderDb = new Decibels(-120) }));
        Assert.Equal("split.units[0].groups[0].port", OfUnit(new UnitGroup("Group A") { Port = 21 }));
        Assert.Equal("split.units[0].groups[0].name", OfUnit(new UnitGroup("Group Z")));
        Assert.Equal("split.units[0].groups[0].faderDb", OfUnit(new UnitGroup("Group A") { FaderDb = new Decibels(-121) }));
    }

    [Fact]
    public void What_a_split_answers_of_itself_is_right_at_the_edges()
    {
        Assert.Equal(1, (Boat with { Tracks = [.. Boat.Tracks.Select(t => t with { Armed = false })] }).Passes);
        Assert.Equal(2, Boat.Passes);
        Assert.Equal("t1", (Boat with { Tracks = [] }).NewTrackId().Value);
        var sockets = Boat.Banks.First(b => b.Kind == BankKind.Analog);
        Assert.Equal(
            (false, true, true, false, true, false),
            (Boat.Fits(new(sockets.Id, 0), Width.Mono), Boat.Fits(new(sockets.Id, 1), Width.Mono), Boat.Fits(new(sockets.Id, sockets.Count), Width.Mono), Boat.Fits(new(sockets.Id, sockets.Count + 1), Width.Mono), Boat.Fits(new(sockets.Id, sockets.Count - 1), Width.Stereo), Boat.Fits(new(sockets.Id, sockets.Count), Width.Stereo)));
        Assert.Equal("no input", Boat.InputName(new Track(new TrackId("t9"), "X", Width.Mono)));
        Assert.Equal("u9/x", Boat.NameOf(new ElementRef(new UnitId("u9"), new ElementId("x"))));
        var pair = new Track(new TrackId("t9"), "X", Width.Stereo) { Input = new InputRef(sockets.Id, 3) };
        bool IsOff(int off, Track track) => Boat.With(sockets with { Off = [off] }).IsOff(track);
        Assert.Equal((false, true, true, false), (IsOff(2, pair), IsOff(3, pair), IsOff(4, pair), IsOff(5, pair)));
    }

    [Theory]
    [InlineData("USB", 3, Width.Mono, InputWidths.Any, "USB 3", null)]
    [InlineData("USB", 3, Width.Stereo, InputWidths.Any, "USB 3-4", null)]
    [InlineData("USB", 4, Width.Stereo, InputWidths.Any, "USB 4-5", null)]
    [InlineData("USB", 4, Width.Stereo, InputWidths.PairsFromOdd, "USB 4-5", "odd inputs only")]
    [InlineData("USB", 4, Width.Mono, InputWidths.PairsFromOdd, "USB 4", null)]
    [InlineData("USB", 3, Width.Mono, InputWidths.PairsOnly, "USB 3", "only as pairs")]
    [InlineData("USB", 3, Width.Stereo, InputWidths.PairsOnly, "USB 3-4", null)]
    [InlineData("USB", 4, Width.Stereo, InputWidths.PairsOnly, "USB 4-5", "odd inputs only")]
    [InlineData("USB", 0, Width.Mono, InputWidths.Any, "USB 0", "1 to 8")]
    [InlineData("USB", 8, Width.Mono, InputWidths.Any, "USB 8", null)]
    [InlineData("USB", 8, Width.Stereo, InputWidths.Any, "USB 8-9", "1 to 8")]
    public void A_row_names_its_inputs_and_says_which_it_offers(string label, int channel, Width width, InputWidths widths, string name, string? trouble)
    {
        var bank = new Bank(new BankId("x"), label, BankKind.Usb, 8, null) { Widths = widths };
        Assert.Equal(name, bank.InputName(channel, width));
        Assert.True(trouble is null ? bank.Trouble(channel, width) is null : bank.Trouble(channel, width)!.Contains(trouble, StringComparison.Ordinal), bank.Trouble(channel, width));
    }

    [Fact]
    public void References_are_read_as_they_are_written_and_nothing_else_is()
    {
        Assert.Equal(new InputRef(new BankId("in1"), 3), InputRef.Read("in1:3"));
        Assert.All(new[] { null, "", "in1", ":3", "in1:", "in1:x", "in1:3:4" }, text => Assert.Null(InputRef.Read(text)));
        Assert.Equal(new ElementRef(new UnitId("u1"), new ElementId("a/b")), ElementRef.Read("u1/a/b"));
        Assert.Equal(new ElementRef(new UnitId("u"), new ElementId("x")), ElementRef.Read("u/x"));
        Assert.Equal(new InputRef(new BankId("b"), 1), InputRef.Read("b:1"));
        Assert.All(new[] { null, "", "u1", "/x", "u1/" }, text => Assert.Null(ElementRef.Read(text)));
        Assert.Equal((new InputRef(new BankId("in1"), 3), (int?)2), Cable.ReadPlug("in1:3 2"));
        Assert.Equal((new InputRef(new BankId("in1"), 3), (int?)null), Cable.ReadPlug("in1:3"));
        Assert.All(new[] { "", "in1", "in1:3 x", "in1:3 2 1" }, text => Assert.Null(Cable.ReadPlug(text)));
        Assert.Equal(["in1:3 2", "in1:3"], new[] { (int?)2, null }.Select(pass => new Cable(new UnitId("u1"), 1, new InputRef(new BankId("in1"), 3), pass).Plug));
        Assert.Equal([new RidePoint(1, 0), new RidePoint(2.5, -6)], RidePoint.ReadAll(" 1 0, 2.5  -6;\n").Value!);
        Assert.All(new[] { "1", "1 2 3", "x 1", "1 y", "1 2, 3" }, text => Assert.Contains("does not fit", RidePoint.ReadAll(text).Trouble, StringComparison.Ordinal));
    }

    [Fact]
    public void An_edit_that_would_not_pass_is_refused_with_the_sentence_alone()
    {
        var kick = new ElementRef(Fog.Units[0].Id, new ElementId("kick"));
        Assert.Equal("A fader goes from -120 to +12 dB.", new SetFader(kick, new Decibels(5000)).Apply(Fog).Trouble);
        Assert.Equal("A track is monitored never, while armed, or always.", new SetMonitor(Fog.Tracks[0].Id, (MonitorMode)99).Apply(Fog).Trouble);
        Assert.Equal("A track is mono or stereo.", new SetTrackWidth(Fog.Tracks[^1].Id, (Width)7).Apply(Fog with { Tracks = Fog.Tracks.SetItem(Fog.Tracks.Length - 1, Fog.Tracks[^1] with { Input = null }) }).Trouble);
        Assert.Equal("A pass is 1 to 2000 bars long.", new SetPass(Fog.Pass with { LengthBars = 0 }).Apply(Fog).Trouble);
    }

    [Fact]
    public void In_a_pass_what_plays_in_another_is_muted_or_heard_through_a_return_of_this_pass_alone()
    {
        var kit = Sessions.Kit.Split;
        Split With(params (string Element, int Pass)[] passes) =>
            kit.With(kit.Units[0] with { Elements = [.. kit.Units[0].Elements.Select(e => passes.FirstOrDefault(p => p.Element == e.ElementId.Value) is { Pass: > 0 and var pass } ? e with { Pass = pass } : e)] });
        (bool Muted, int? Port, bool InMain) Hat(Split split) => split.Units[0].Element(new ElementId("hat")) is var e ? (e.Muted, e.Port, e.InMain) : default;
        Assert.Equal((false, 5, false), Hat(With(("hat", 2)).InPass(2)));
        Assert.Equal((false, null, false), Hat(With(("hat", 1)).InPass(2))); // the hall plays in every pass
        Assert.Equal((true, 5, false), Hat(With(("hat", 1), ("hall", 1)).InPass(2)));
        Assert.Equal((false, null, false), Hat(With(("hat", 1), ("hall", 2)).InPass(2)));
        Assert.Equal((false, 5, false), Hat(With().InPass(2)));

        // Only the tracks of the pass are there.
        var two = kit.With(kit.Tracks[4] with { Pass = 2 });
        Assert.Equal(["Hat"], two.InPass(2).Tracks.Select(t => t.Name));
        Assert.Equal(11, two.InPass(1).Tracks.Length);
    }

    [Fact]
    public void A_channel_arrives_by_the_cables_of_its_pass_and_of_every_pass()
    {
        var sockets = Boat.Banks.First(b => b.Kind == BankKind.Analog);
        InputRef At(int channel) => new(sockets.Id, channel);
        var unit = Boat.Units[0];
        var split = Boat.With(Boat.BankOf(unit) with { Connected = false }) with { Cables = [new(unit.Id, 1, At(1), 1), new(unit.Id, 1, At(2), 2), new(unit.Id, 1, At(3)), new(unit.Id, 2, At(4)), new(new UnitId("u9"), 1, At(5))] };
        IEnumerable<int> Arrive(int? pass) => split.Arrivals(unit, 1, pass).Select(i => i.Channel);
        Assert.Equal([1, 3], Arrive(1));
        Assert.Equal([2, 3], Arrive(2));
        Assert.Equal([3], Arrive(3));
        Assert.Equal([1, 2, 3], Arrive(null));
        Assert.Equal(At(2), split.InputOf(unit, 1, 2));
        Assert.Null(split.InputOf(unit, 3));
        var own = split.With(split.BankOf(unit) with { Connected = true });
        Assert.Equal(own.BankOf(unit).Id, own.Arrivals(unit, 1, 1).First().BankId);
    }

    [Fact]
    public void A_finding_is_accepted_with_a_key_a_sentence_and_a_reason_of_a_length()
    {
        string? Told(string key, string sentence, string why) => SplitRules.FirstMisfit(Boat with { Accepted = [new AcceptedFinding(key, sentence, why)] })?.Place;
        Assert.Equal((null, "split.accepted[0]", "split.accepted[0]", "split.accepted[0]"), (Told(new string('k', 320), "S.", "w"), Told(new string('k', 321), "S.", "w"), Told("", "S.", "w"), Told("k", null!, "w")));
        Assert.Equal((null, "split.accepted[0].why", "split.accepted[0].why", "split.accepted[0].why"), (Told("k", "S.", new string('w', 200)), Told("k", "S.", new string('w', 201)), Told("k", "S.", " w"), Told("k", "S.", "")));
        Assert.Equal("split.units[0].groups[0]", SplitRules.FirstMisfit(Boat.With(Boat.Units[0] with { Groups = [null!] }))!.Value.Place);
        Assert.Equal("split.units[0].voices[0]", SplitRules.FirstMisfit(Boat.With(Boat.Units[0] with { Voices = Boat.Units[0].Voices.SetItem(0, null!) }))!.Value.Place);
    }

    [Theory]
    [InlineData(2, 1, 1)]
    [InlineData(1, 0, 1)]
    [InlineData(2, 0, 2)]
    public void A_setting_that_a_newer_chart_lacks_is_not_open_any_more(int settings, int open, int left)
    {
        var drums = Sessions.After(Sessions.Drums.Split, new MakeSetting(new UnitId("u1"), null, false));
        var chart = drums.Units[0].Chart;
        var updated = Sessions.After(drums.With(drums.Units[0] with { Simulated = new SimulatedUnit { NotMade = [.. Enumerable.Range(open, 2 - open)] } }), new UpdateChart(new UnitId("u1"), chart with { Settings = chart.Settings[..settings] }));
        Assert.Equal(left, updated.Units[0].Simulated.NotMade.Length);
    }

    [Fact]
    public void Of_crossed_cables_only_those_go_whose_input_is_gone()
    {
        // Two pairs of inputs are crossed; one of them has an end at an input that goes.
        var sockets = Boat.Banks.First(b => b.Kind == BankKind.Analog);
        InputRef At(int channel) => new(sockets.Id, channel);
        var crossed = Boat with { Cables = [], Tracks = [], Interface = new SimulatedInterface { Crossed = [new(At(1), At(8)), new(At(2), At(3))], Clips = true } };
        var after = Sessions.After(crossed, new SetBank(sockets with { Count = 7 }));
        Assert.Equal([new CrossedInputs(At(2), At(3))], after.Interface.Crossed);
        Assert.True(after.Interface.Clips);
        Assert.Empty(Sessions.After(crossed, new RemoveBank(sockets.Id)).Interface.Crossed);
    }

    [Fact]
    public void A_chart_that_becomes_smaller_takes_inputs_cables_and_buses_with_it()
    {
        var unit = Boat.Units[0];
        var smaller = unit.Chart with
        {
            Ports = [.. unit.Chart.Ports.Where(p => p.LastChannel <= 4)],
            Elements = [.. unit.Chart.Elements.Select(e => e with { Port = null, Ports = [] })],
            Modes = [.. unit.Chart.Modes.Select(m => m with { Ports = [.. m.Ports.Where(n => unit.Chart.Port(n)!.LastChannel <= 4)] })],
            Groups = [.. unit.Chart.Groups.Select(g => g with { Port = null })],
        };
        var wired = Boat.With(Boat.Tracks[0] with { Input = new InputRef(Boat.BankOf(unit).Id, 5), Width = Width.Mono })
            .With(Boat.Tracks[1] with { Input = new InputRef(Boat.BankOf(unit).Id, 4), Width = Width.Mono })
            .With(Boat.BankOf(unit) with { Off = [4, 5] });
        var after = new UpdateChart(unit.Id, smaller).Apply(wired);
        Assert.True(after.Ok, after.Trouble);
        Assert.Null(after.Value.Tracks[0].Input);
        Assert.Equal(4, after.Value.Tracks[1].Input!.Channel);
        Assert.Equal(4, after.Value.BankOf(unit).Count);
        Assert.Equal([4], after.Value.BankOf(unit).Off);
        Assert.All(after.Value.Cables.Where(c => c.UnitId == unit.Id), c => Assert.InRange(c.Channel, 1, 4));
        Assert.NotEqual(Boat.Cables.Count(c => c.UnitId == unit.Id), after.Value.Cables.Count(c => c.UnitId == unit.Id));
        Assert.Equal(unit.Clock, after.Value.Unit(unit.Id)!.Clock);
    }
}

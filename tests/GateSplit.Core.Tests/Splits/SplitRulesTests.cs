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

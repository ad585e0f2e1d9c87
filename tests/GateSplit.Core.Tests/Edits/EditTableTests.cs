using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Templates;

namespace GateSplit.Core.Tests.Edits;

/// <summary>Every edit by its name in the history, by what it changes, and by what it says where it cannot be.</summary>
public sealed class EditTableTests
{
    private static readonly Split Drums = Sessions.Drums.Split;
    private static readonly Split Kit = Sessions.Kit.Split;
    private static readonly Split Grid = Sessions.Laid(TansyGrid.Chart).Split;
    private static readonly UnitId U1 = new("u1");
    private static readonly TrackId T1 = new("t1");
    private static readonly BankId Usb = new("b-u1");
    private static readonly BankId Buses = new("buses");
    private static readonly ElementRef Kick = new(U1, new ElementId("kick"));
    private static readonly ElementRef A1 = new(U1, new ElementId("a1"));
    private static readonly PerformedStep Roll = new(Kick, StepKind.Roll, 1, 2.5, 4);
    private static readonly TrackGroup Low = new(new TrackGroupId("g1"), "Low", true);
    private static readonly Split Full = Sessions.After(
        Drums,
        [
            .. Enumerable.Range(1, SplitRules.MostBanks - Drums.Banks.Length).Select(n => new AddBank(BankKind.Analog, $"Socket {n}", 2)),
            .. Enumerable.Range(0, SplitRules.MostTracks - Drums.Tracks.Length).Select(n => new AddTrack(new Track(new TrackId(300 + n), $"More {n}", Width.Mono))),
        ]);
    private static readonly Split Grouped = Sessions.After(Drums, new AddTrackGroup("Low", true), new PutInGroup(T1, Low.Id));

    public static TheoryData<string, Edit, string, Func<Split, object?>, object?> Done => new()
    {
        { "drums", new AddStep(Roll), "Perform on Kick: roll, 4 a quarter, bar 1 to 2.5", s => s.Steps.Single(), Roll },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(2, 0), new RidePoint(1, -3)])), "Ride the level of Kick", s => s.Rides.Single().Points[0], new RidePoint(1, -3) },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(1, -60), new RidePoint(4, 12)])), "Ride the level of Kick", s => s.Rides.Single().Points[1], new RidePoint(4, 12) },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [.. Enumerable.Range(0, Ride.MostPoints).Select(i => new RidePoint(1 + i / 2000.0, 0))])), "Ride the level of Kick", s => s.Rides.Single().Points.Length, 4000 },
        { "drums", new SetRide(new Ride(Kick, RideControl.Filter, default)), "Take the filter ride off Kick", s => s.Rides.Length, 0 },
        { "drums", new SetRide(new Ride(Kick, RideControl.Filter, [])), "Take the filter ride off Kick", s => s.Rides.Length, 0 },
        { "drums", new AddBank(BankKind.Analog, " Socket ", 8), "Add the inputs  Socket ", s => string.Join(' ', s.Banks.Select(b => $"{b.Id} {b.Label} {b.Widths}")), "b-u1 USB Any in1 Socket PairsFromOdd buses Bus Any" },
        { "drums", new AddBank(BankKind.Buses, "More", 4), "Add the inputs More", s => $"{s.Banks[^1].Label} {s.Banks[^1].Widths}", "More Any" },
        { "drums", new AddTrackGroup(" Low ", false), "Add the group  Low ", s => s.TrackGroups.Single(), Low with { Sums = false } },
        { "drums", new TakeOutOfGroup(T1, null), "Take Kick out of its group", s => s.Track(T1)!.GroupId, null },
        { "grouped", new TakeOutOfGroup(T1, Low.Id), "Take Kick out of Low", s => s.SumOf(s.Track(T1)!), null },
        { "kit", new SetMusicalPan(new(U1, new ElementId("hat")), new Pan(-0.4)), "Put Hat 40 % left in the music", s => (Of(s, "hat").MusicalPan, Of(s, "hat").Pan), ((Pan?)new Pan(-0.4), Pan.HardLeft) },
        { "kit", new SetStraight(new(U1, new ElementId("hat")), new StraightSend(12) { LevelDb = new Decibels(-6) }), "Feed Hat to port 12 too", s => Of(s, "hat").Straight, new StraightSend(12) { LevelDb = new Decibels(-6) } },
        { "kit", new SetStraight(new(U1, new ElementId("hat")), null), "Feed Hat nowhere else", s => Of(s, "hat").Straight, null },
        { "kit", new SetPortLevel(U1, 4, new Decibels(-3)), "Set port 4 of Ostler Kit Room to −3.0 dB", s => s.Units[0].LevelOf(4), new Decibels(-3) },
        { "drums", new SetPortLevel(U1, 1, Decibels.Unity), "Set port 1 of Mudlark Nine to 0.0 dB", s => s.Units[0].PortLevels.Length, 0 },
        { "drums", new GiveNotes(U1, [10]), "Give the notes to Mudlark Nine alone", s => s.Units[0].NoteRoutes.Length, 0 },
        { "drums", new RouteNotes(U1, 10, NoteRoute.Nowhere, 0), "Keep channel 10 from Mudlark Nine", s => s.Units[0].NoteRoutes.Single(), new NoteRoute(10, 0) },
        { "grouped", new PutInGroup(new TrackId("t2"), Low.Id), "Put Snare into Low", s => s.Track(new TrackId("t2"))!.GroupId, Low.Id },
        { "grouped", new RemoveTrackGroup(Low.Id), "Remove the group Low", s => (s.TrackGroups.Length, s.Track(T1)!.GroupId), (0, (TrackGroupId?)null) },
        { "grouped", new SetTrackGroup(Low with { Name = "Deep" }), "Change the group Deep", s => s.TrackGroups.Single().Name, "Deep" },
        { "drums", new SetPass(Drums.Pass with { LengthBars = 7 }), "Change the pass", s => s.Pass.LengthBars, 7 },
        { "drums", new SwitchInputs(Usb, 3, 3, false), "Switch USB 3 off", s => s.Banks[0].Off.Single(), 3 },
        { "drums", new SwitchInputs(Usb, 12, 12, false), "Switch USB 12 off", s => s.Banks[0].Off.Single(), 12 },
        { "drums", new SwitchInputs(Usb, 1, 4, false), "Switch USB 1-4 off", s => string.Join(' ', s.Banks[0].Off), "1 2 3 4" },
        { "drums", new SwitchInputs(Usb, 1, 4, true), "Switch USB 1-4 on", s => s.Banks[0].Off.Length, 0 },
        { "drums", new SetBank(Drums.Banks[0] with { Connected = false }), "Disconnect USB", s => s.Banks[0].Connected, false },
        { "drums", new SetBank(Drums.Banks[0] with { UnitId = null, Kind = BankKind.Analog }), "Change the inputs USB", s => (s.Banks[0].UnitId, s.Banks[0].Kind), (Drums.Banks[0].UnitId, BankKind.Usb) },
        { "drums", new SetBank(Drums.Banks[0] with { Label = " Box " }), "Change the inputs USB", s => s.Banks[0].Label, "Box" },
        { "drums", new SetSimulatedInterface(new SimulatedInterface { Clips = true }), "Set how the simulated interface behaves", s => s.Interface.Clips, true },
        { "drums", new ShapeSimulatedUnit(U1, 1, 2, 3, 4), "Set how the simulated Mudlark Nine behaves", s => s.Units[0].Simulated is { LatencyMs: 1, OffsetMs: 2, DriftPpm: 3, JitterMs: 4 }, true },
        { "kit", new AssignPort(new(U1, new ElementId("hat")), 9), "Send Hat to port 9", s => Of(s, "hat") is { Port: 9, InMain: false }, true },
        { "kit", new AssignPort(new(U1, new ElementId("hat")), null), "Leave Hat in the main mix", s => Of(s, "hat") is { Port: null, InMain: true }, true },
        { "drums", new AssignPort(Kick, 2), "Send Kick to port 2", s => Of(s, "kick") is { Port: 2, InMain: true }, true },
        { "drums", new MakeSetting(U1, null, false), "Begin the settings of Mudlark Nine anew", s => string.Join(' ', s.Units[0].Simulated.NotMade), "0 1" },
        { "drums", new MakeSetting(U1, 1, false), "Take a tick off Mudlark Nine", s => string.Join(' ', s.Units[0].Simulated.NotMade), "1" },
        { "drums", new MakeSetting(U1, 0, true), "Tick a setting of Mudlark Nine", s => s.Units[0].Simulated.NotMade.Length, 0 },
        { "drums", new MakeSetting(U1, null, true), "Tick all settings of Mudlark Nine", s => s.Units[0].Simulated.NotMade.Length, 0 },
        { "drums", new MarkRestarted(U1), "Mudlark Nine was started again", s => s.Units[0].NeedsRestart, false },
        { "drums", new PanApart(Kick, 0), "Pan Kick hard left", s => (Of(s, "kick").Pan, Of(s, "kick").MusicalPan), (Pan.HardLeft, (Pan?)Pan.Centre) },
        { "drums", new PanApart(Kick, 1), "Pan Kick hard right", s => (Of(s, "kick").Pan, Of(s, "kick").MusicalPan), (Pan.HardRight, (Pan?)Pan.Centre) },
        { "kit", new PanApart(new(U1, new ElementId("hat")), 1), "Pan Hat hard right", s => (Of(s, "hat").Pan, Of(s, "hat").MusicalPan), (Pan.HardRight, Of(Kit, "hat").MusicalPan) }, // it was hard left already
        { "drums", new SetPan(Kick, new Pan(0)), "Pan Kick to the centre", s => Of(s, "kick").MusicalPan, null },
        { "drums", new SetPan(Kick, new Pan(0.3)), "Pan Kick 30 % right", s => Of(s, "kick").Pan, new Pan(0.3) },
        { "drums", new RenameUnit(U1, " Left "), "Call Mudlark Nine Left", s => s.Units[0].Name, "Left" },
        { "kit", new SetBleed(new(U1, new ElementId("hat")), new Decibels(-2)), "Set the bleed of Hat", s => Of(s, "hat").BleedDb, new Decibels(-2) },
        { "drums", new SetClock(U1, ClockMode.Follows), "Mudlark Nine follows the recorder", s => s.Units[0].Clock, ClockMode.Follows },
        { "drums", new SetClock(U1, ClockMode.Leads), "Mudlark Nine leads the recorder", s => s.Units[0].Clock, ClockMode.Leads },
        { "drums", new SetClock(U1, ClockMode.Free), "Mudlark Nine runs free", s => s.Units[0].Clock, ClockMode.Free },
        { "drums", new SetElementPass(Kick, 2), "Play Kick in pass 2", s => Of(s, "kick").Pass, 2 },
        { "drums", new SetElementPass(Kick, null), "Play Kick in every pass", s => Of(s, "kick").Pass, null },
        { "drums", new SetFader(Kick, new Decibels(0)), "Set Kick's fader to unity", s => Of(s, "kick").FaderDb, new Decibels(0) },
        { "drums", new SetFader(Kick, new Decibels(-1)), "Set Kick's fader to −1.0 dB", s => Of(s, "kick").FaderDb, new Decibels(-1) },
        { "grid", new SetFollowsGroup(A1, false), "Take A1 out of its group", s => (Of(s, "a1").FollowsGroup, Of(s, "a1").Port, Of(s, "a1").InMain), (false, Of(Grid, "a1").Port, Of(Grid, "a1").InMain) },
        { "grid", new SetFollowsGroup(A1, true), "A1 follows its group", s => (Of(s, "a1").FollowsGroup, Of(s, "a1").Port, Of(s, "a1").InMain), (true, (int?)null, true) },
        { "grid", new SetGroup(U1, new UnitGroup("Group A") { Port = 3 }), "Send group Group A to port 3", s => s.Units[0].Group("Group A").Port, 3 },
        { "grid", new SetGroup(U1, new UnitGroup("Group A") { Muted = true }), "Mute group Group A", s => s.Units[0].Group("Group A").Muted, true },
        { "grid", new SetGroup(U1, new UnitGroup("Group A") { FaderDb = new Decibels(-1) }), "Set group Group A's fader", s => s.Units[0].Group("Group A").FaderDb, new Decibels(-1) },
        { "drums", new SetInMain(Kick, true), "Put Kick into the main mix", s => Of(s, "kick").InMain, true },
        { "drums", new SetInMain(Kick, false), "Take Kick out of the main mix", s => Of(s, "kick").InMain, false },
        { "drums", new SetMode(U1, new ModeId("mix")), "Set Mudlark Nine to Mix only", s => (s.Units[0].ModeId.Value, s.Units[0].ModeInForceId), ("mix", (ModeId?)null) },
        { "drums", new SetMuted(Kick, true), "Mute Kick", s => Of(s, "kick").Muted, true },
        { "drums", new SetMuted(Kick, false), "Let Kick sound", s => Of(s, "kick").Muted, false },
        { "drums", new SetSend(Kick, new Decibels(-3), new Pan(0.1)), "Set the send of Kick", s => (Of(s, "kick").SendDb, Of(s, "kick").SendPan), ((Decibels?)new Decibels(-3), (Pan?)new Pan(0.1)) },
        { "drums", new RouteNotes(U1, 1, 10, -12), "Let channel 1 play Mudlark Nine on channel 10, 12 keys lower", s => s.Units[0].NoteRoutes.Single(), new NoteRoute(1, 10, -12) },
        { "drums", new Several("Twice", [new RouteNotes(U1, 1, 10, 0), new RouteNotes(U1, 1, 2, 1)]), "Twice", s => s.Units[0].NoteRoutes.Single(), new NoteRoute(1, 2, 1) },
        { "drums", new Several("Back", [new RouteNotes(U1, 1, 10, 0), new RouteNotes(U1, 1, null, 0)]), "Back", s => s.Units[0].NoteRoutes.Length, 0 },
        { "drums", new SetSounds(Kick, true), "Count Kick as sounding", s => Of(s, "kick").Sounds, true },
        { "drums", new SetSounds(Kick, false), "Count Kick as silent", s => Of(s, "kick").Sounds, false },
        { "drums", new SetSounds(Kick, null), "Go by the notes for Kick", s => Of(s, "kick").Sounds, null },
        { "drums", new ShapeVoice(U1, new UnitVoice(new VoiceId("kick")) { TuneSemitones = 3 }), "Shape Kick", s => s.Units[0].Voices.Count(v => v.TuneSemitones == 3), 1 },
        { "drums", new AddTrack(new Track(new TrackId("t90"), "New", Width.Mono)), "Add the track New", s => s.Tracks[^1].Name, "New" },
        { "drums", new AddTrack(new Track(new TrackId("t90"), "New", Width.Mono), 0), "Add the track New", s => s.Tracks[0].Name, "New" },
        { "drums", new AddTrack(new Track(new TrackId("t90"), "New", Width.Mono), 99), "Add the track New", s => s.Tracks[^1].Name, "New" },
        { "drums", new SetMeantFor(T1, [Meant.ForGroup(U1, "Toms"), Meant.ForMix(U1)]), "Mean Kick for Toms of Mudlark Nine and the mix of Mudlark Nine", s => string.Join(' ', s.Tracks[0].MeantFor), "u1/group/Toms u1/mix/" },
        { "drums", new SetMeantFor(T1, []), "Leave open what Kick is meant for", s => s.Tracks[0].MeantFor.Length, 0 },
        { "drums", new MoveTrack(T1, 1), "Move Kick down", s => s.Tracks[1].Id, T1 },
        { "drums", new MoveTrack(new TrackId("t2"), -1), "Move Snare up", s => s.Tracks[0].Id.Value, "t2" },
        { "drums", new MoveTrack(T1, 99), "Move Kick down", s => s.Tracks[^1].Id, T1 },
        { "drums", new OrderTracks([.. Drums.Tracks.Reverse().Select(t => t.Id)]), "Put the tracks into order", s => s.Tracks[^1].Id, T1 },
        { "drums", new RemoveTrack(T1), "Remove Kick", s => s.Tracks.Length, Drums.Tracks.Length - 1 },
        { "drums", new RenameTrack(T1, " Boom "), "Rename Kick to  Boom ", s => s.Tracks[0].Name, "Boom" },
        { "drums", new SetArmed(T1, false), "Disarm Kick", s => s.Tracks[0].Armed, false },
        { "drums", new SetArmed(T1, true), "Arm Kick", s => s.Tracks[0].Armed, true },
        { "drums", new SetKeepsNotes(T1, false), "Leave out the notes of Kick", s => s.Tracks[0].KeepsNotes, false },
        { "drums", new SetKeepsNotes(T1, true), "Keep the notes of Kick", s => s.Tracks[0].KeepsNotes, true },
        { "drums", new SetLive(T1, true), "Make Kick a live channel", s => (s.Tracks[0].Live, s.Tracks[0].Armed), (true, false) },
        { "drums", new SetLive(T1, false), "Make Kick a recorded track", s => (s.Tracks[0].Live, s.Tracks[0].Armed), (false, true) },
        { "drums", new SetMonitor(T1, MonitorMode.Never), "Monitor Kick never", s => s.Tracks[0].Monitor, MonitorMode.Never },
        { "drums", new SetMonitor(T1, MonitorMode.Always), "Monitor Kick always", s => s.Tracks[0].Monitor, MonitorMode.Always },
        { "drums", new SetMonitor(T1, MonitorMode.WhileArmed), "Monitor Kick while armed", s => s.Tracks[0].Monitor, MonitorMode.WhileArmed },
        { "drums", new SetTrackBus(T1, new InputRef(Buses, 3)), "Send Kick to Bus 3", s => s.Tracks[0].Bus, new InputRef(Buses, 3) },
        { "drums", new SetTrackBus(T1, null), "Send Kick to the main output", s => s.Tracks[0].Bus, null },
        { "drums", new SetTrackInput(T1, null), "Take Kick off its input", s => s.Tracks[0].Input, null },
        { "drums", new SetTrackLevel(T1, new Decibels(-4)), "Set Kick to −4.0 dB", s => s.Tracks[0].LevelDb, new Decibels(-4) },
        { "drums", new SetTrackPan(T1, new Pan(0.2)), "Pan the track Kick", s => s.Tracks[0].Pan, new Pan(0.2) },
        { "drums", new SetTrackPass(T1, 2), "Record Kick in pass 2", s => (s.Tracks[0].Pass, s.Passes), (2, 2) },
        { "drums", new SetTrackWidth(T1, Width.Stereo), "Make Kick stereo", s => s.Tracks[0].Width, Width.Stereo },
        { "drums", new SetTrackWidth(T1, Width.Mono), "Make Kick mono", s => s.Tracks[0].Width, Width.Mono },
        { "drums", new TickLine(Kick, "its way"), "Tick Kick", s => s.Ticked.Single().Way, "its way" },
        { "drums", new TickLine(Kick, null), "Take the tick off Kick", s => s.Ticked.Length, 0 },
        { "drums", new AcceptFinding(new AcceptedFinding("Fader@x", "It.", " why ")), "Accept a finding as meant", s => s.Accepted.Single().Why, "why" },
        { "drums", new UnacceptFinding("Fader@x"), "Look at a finding again", s => s.Accepted.Length, 0 },
        { "drums", new RemoveUnit(U1), "Remove Mudlark Nine", s => s.Units.Length, 0 },
        { "drums", new AddUnit(WickerKeys.Chart), "Add Wicker Keys", s => s.Units[^1].Name, "Wicker Keys" },
    };

    public static TheoryData<string, Edit, string> Refused => new()
    {
        { "drums", new OrderTracks([T1, .. Drums.Tracks.Select(t => t.Id)]), "The tracks have changed meanwhile; put them into order again." },
        { "drums", new OrderTracks([new TrackId("t99"), .. Drums.Tracks.Skip(1).Select(t => t.Id)]), "The tracks have changed meanwhile; put them into order again." },
        { "drums", new OrderTracks([Drums.Tracks[1].Id, .. Drums.Tracks.Skip(1).Select(t => t.Id)]), "The tracks have changed meanwhile; put them into order again." },
        { "drums", new OrderTracks([.. Drums.Tracks.Skip(1).Select(t => t.Id)]), "The tracks have changed meanwhile; put them into order again." },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(1, 13)])), "The level goes from -60 to 12, and the bars from 1 to 4: 13 at bar 1 does not fit." },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(0.9, 0)])), "The level goes from -60 to 12, and the bars from 1 to 4: 0 at bar 0.9 does not fit." },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(4.1, 0)])), "The level goes from -60 to 12, and the bars from 1 to 4: 0 at bar 4.1 does not fit." },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(1, -60.1)])), "The level goes from -60 to 12, and the bars from 1 to 4: -60.1 at bar 1 does not fit." },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(3, 14), new RidePoint(2, 13)])), "The level goes from -60 to 12, and the bars from 1 to 4: 13 at bar 2 does not fit." },
        { "drums", new SetRide(new Ride(Kick, RideControl.Level, [.. Enumerable.Repeat(new RidePoint(1, 0), Ride.MostPoints + 1)])), "A ride has up to 4000 points." },
        { "drums", new SetRide(new Ride(Kick, (RideControl)99, [new RidePoint(1, 0)])), "A ride has up to 4000 points." },
        { "drums", new SetRide(new Ride(A1, RideControl.Level, [new RidePoint(1, 0)])), "There is no element u1/a1 in this split any more." },
        { "drums", new AddStep(Roll with { FromBar = 0, Number = 99 }), "It begins and ends between bar 1 and bar 4, and begins first." },
        { "drums", new AddStep(Roll with { Number = 17 }), "A roll has 1 to 16 strokes a quarter." },
        { "drums", new PlugCables(U1, 1, 0, new(Usb, 1)), "Mudlark Nine has the channels 1 to 12: as many cables can be plugged in." },
        { "drums", new PlugCables(U1, 1, 13, new(Usb, 1)), "Mudlark Nine has the channels 1 to 12: as many cables can be plugged in." },
        { "drums", new PlugCables(U1, 1, 1, new(Usb, 1)), "No cable fits into USB: choose sockets or a looped-back pair." },
        { "drums", new PlugCables(new UnitId("u2"), 1, 1, new(Usb, 1)), "This source or these inputs are not in the split any more." },
        { "full", new AddTrack(new Track(new TrackId("t900"), "More", Width.Mono)), "A split has at most 256 tracks." },
        { "full", new AddBank(BankKind.Analog, "More", 2), "A split has at most 48 rows of inputs, and only sockets, looped-back pairs and buses are added by hand." },
        { "drums", new SwitchInputs(Usb, 0, 1, true), "USB has the inputs 1 to 12." },
        { "drums", new SwitchInputs(Usb, 3, 2, true), "USB has the inputs 1 to 12." },
        { "drums", new SwitchInputs(Usb, 12, 13, true), "USB has the inputs 1 to 12." },
        { "drums", new AddTrack(new Track(T1, "Again", Width.Mono)), "This track is already in the split." },
        { "drums", new AddBank(BankKind.Usb, "Other", 2), "A split has at most 48 rows of inputs, and only sockets, looped-back pairs and buses are added by hand." },
        { "drums", new AddBank(BankKind.Buses, "bus", 2), "There is a row of inputs called bus already." },
        { "grouped", new AddTrackGroup("LOW ", false), "There is a group called LOW already, or there are 64 of them." },
        { "drums", new PutInGroup(T1, new TrackGroupId("g7")), "This group is not in the split any more." },
        { "drums", new SetFollowsGroup(Kick, true), "Kick belongs to no group that carries sound." },
        { "drums", new DeclarePorts(U1, 1, Width.Mono, "X", 1), "Mudlark Nine has the outputs it has; none can be declared." },
        { "drums", new MakeSetting(U1, 2, true), "Mudlark Nine has no such setting any more." },
        { "drums", new PullCables(U1), "There is no such cable any more." },
        { "drums", new RemoveStep(Roll), "This is gone already." },
    };

    [Theory]
    [MemberData(nameof(Done))]
    public void It_has_a_name_and_does_what_it_says(string session, Edit edit, string name, Func<Split, object?> seen, object? expected)
    {
        var before = Of(session);
        Assert.Equal(name, edit.Name(before));
        Assert.Equal(expected, seen(Sessions.After(before, edit)));
    }

    [Theory]
    [MemberData(nameof(Refused))]
    public void It_is_refused_with_a_sentence(string session, Edit edit, string sentence) => Assert.Equal(sentence, edit.Apply(Of(session)).Trouble);

    [Fact]
    public void Every_kind_of_edit_is_in_the_table_or_has_tests_of_its_own()
    {
        var elsewhere = new[] { nameof(Several), nameof(DeclarePorts), nameof(JoinExternals), nameof(SetInsert), nameof(UpdateChart), nameof(SetSimulatedUnit), nameof(PlugCables), nameof(PullCables), nameof(RemoveBank), nameof(RemoveStep), nameof(PutTemplate) };
        var kinds = typeof(Edit).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(Edit)) && !t.IsAbstract).Select(t => t.Name);
        Assert.Empty(kinds.Except(Done.Select(row => row.Data.Item2.GetType().Name)).Except(elsewhere));
    }

    [Fact]
    public void What_was_taken_out_of_the_main_mix_stays_out_on_its_port_and_returns_with_its_group()
    {
        var kick = Sessions.After(Drums, new SetInMain(Kick, false), new AssignPort(Kick, 2));
        Assert.False(Of(kick, "kick").InMain);
        var pad = Grid.With(U1, Of(Grid, "a1") with { Port = 3, InMain = false });
        Assert.True(Of(Sessions.After(pad, new SetFollowsGroup(A1, true)), "a1").InMain);
        Assert.False(Of(Sessions.After(pad, new SetFollowsGroup(A1, false)), "a1").InMain);
        var nowhere = Grid.With(U1, Of(Grid, "a1") with { Port = null, InMain = false });
        Assert.True(Of(Sessions.After(nowhere, new SetFollowsGroup(A1, false)), "a1").InMain);
    }

    [Fact]
    public void What_was_set_before_is_replaced_and_what_belongs_to_others_stays()
    {
        var other = Kick with { ElementId = new ElementId("snare") };
        var split = Sessions.After(
            Drums,
            new TickLine(Kick, "old"),
            new TickLine(other, "other"),
            new TickLine(Kick, "new"),
            new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(1, 0)])),
            new SetRide(new Ride(Kick, RideControl.Send, [new RidePoint(1, -1)])),
            new SetRide(new Ride(other, RideControl.Level, [new RidePoint(1, -2)])),
            new SetRide(new Ride(Kick, RideControl.Level, [new RidePoint(1, -3)])),
            new AcceptFinding(new AcceptedFinding("a", "A.", "one")),
            new AcceptFinding(new AcceptedFinding("b", "B.", "two")),
            new AcceptFinding(new AcceptedFinding("a", "A.", "three")));
        Assert.Equal(["other", "new"], split.Ticked.Select(t => t.Way));
        Assert.Equal([-1, -2, -3], split.Rides.Select(r => r.Points[0].Value));
        Assert.Equal(["two", "three"], split.Accepted.Select(a => a.Why));
        Assert.Equal(["three"], Sessions.After(split, new UnacceptFinding("b")).Accepted.Select(a => a.Why));
        Assert.Equal([-1, -2], Sessions.After(split, new SetRide(new Ride(Kick, RideControl.Level, []))).Rides.Select(r => r.Points[0].Value));
    }

    [Fact]
    public void Rows_of_inputs_are_added_up_to_the_most_and_each_has_an_id_of_its_own()
    {
        Assert.Equal(SplitRules.MostBanks, Full.Banks.Select(b => b.Id).Distinct().Count());
        Assert.Equal(SplitRules.MostTracks, Full.Tracks.Length);

        // The last id there can be, where all those before it are taken.
        var taken = Drums with { Banks = [.. Enumerable.Range(1, SplitRules.MostBanks - 1).Select(n => new Bank(new BankId($"in{n}"), $"Row {n}", BankKind.Analog, 2, null))], Tracks = [], Units = [] };
        Assert.Equal("in48", Sessions.After(taken, new AddBank(BankKind.Analog, "Last", 2)).Banks[^1].Id.Value);
    }

    private static UnitElement Of(Split split, string element) => split.Units[0].Element(new ElementId(element));

    private static Split Of(string session) => session switch { "kit" => Kit, "grid" => Grid, "grouped" => Grouped, "full" => Full, _ => Drums };
}

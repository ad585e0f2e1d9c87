using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Checks;

/// <summary>Each check at its edge: where it must stay silent though it is near, and what it says to the letter where it speaks.</summary>
public sealed class CheckEdgeTests
{
    private const string Drums = "mudlark-nine";
    private const string Kit = "ostler-kit-room";
    private static readonly UnitId U1 = new("u1");
    private static readonly BankId Usb = new("b-u1");
    private static readonly BankId Loop = new("in1");

    /// <summary>What spoils nothing; all else is to be mended.</summary>
    private static readonly string[] OnlyWorthKnowing =
        ["below unity", "twice as big", "noise of the gear", "on every system", "in another order", "perhaps skipped", "only to share a port"];

    public static TheoryData<string, string, Edit[]> Near => new()
    {
        { "CountIn", Drums, [new SetClock(U1, ClockMode.Free), NoCountIn(Drums)] },
        { "CountIn", Kit, [NoCountIn(Kit)] },
        { "Fader", Kit, [new SetFader(Of("tom1"), new Decibels(0.049))] },
        { "Fader", Kit, [new SetFader(Of("tom1"), new Decibels(4)), new RemoveTrack(new TrackId("t6"))] },
        { "Fader", Kit, [new SetFader(Of("tom1"), new Decibels(4)), new SetMuted(Of("tom1"), true)] },
        { "Fader", Kit, [new SetFader(Of("kick-in"), new Decibels(4))] }, // it leaves by the main mix
        { "Tail", Drums, [Tail(1.26)] },
        { "Width", Kit, [new SetPan(Of("hat"), new Pan(-0.58))] },
        { "Width", Drums, [new SetTrackWidth(new TrackId("t1"), Width.Stereo), new SetTrackInput(new TrackId("t1"), null), new SetBank(Bank(Drums) with { Widths = InputWidths.PairsOnly }), new SetTrackInput(new TrackId("t1"), new InputRef(Usb, 3))] },
        { "HeardDirectly", Drums, [new SetBank(Bank(Drums) with { HeardDirectly = true }), .. Tracks(Drums).Select(t => new SetMonitor(t, MonitorMode.Never))] },
        { "InputOff", Drums, [new SwitchInputs(Usb, 12, 12, false), new AddTrack(new Track(new TrackId("t90"), "Spare", Width.Mono) { Input = new InputRef(Usb, 12), Armed = false })] },
        { "InputOff", Drums, [new SwitchInputs(Usb, 2, 2, false)] },
        { "InputOff", Kit, [new SwitchInputs(Usb, 2, 2, false)] }, // t1 is mono on 1
        { "NotMonitored", Drums, [new SetMonitor(new TrackId("t1"), MonitorMode.Always)] },
        { "NotMonitored", Drums, [new SetMonitor(new TrackId("t1"), MonitorMode.Never), new SetArmed(new TrackId("t1"), false)] },
        { "NotArmed", Drums, [new SetLive(new TrackId("t1"), true)] },
        { "NotArmed", Kit, [new SetMuted(Of("hat"), true), new SetArmed(new TrackId("t5"), false)] },
        { "InputTakenTwice", Kit, [new AddTrack(new Track(new TrackId("t90"), "Left", Width.Mono) { Input = new InputRef(Usb, 21) })] },
        { "InputTakenTwice", Kit, [new AddTrack(new Track(new TrackId("t90"), "Again", Width.Stereo) { Input = new InputRef(Usb, 21), Armed = false })] },
        { "FileName", Kit, [new RenameTrack(new TrackId("t1"), "Kick-in (2) #1 'low'")] },
        { "Crossings", Kit, [new MoveTrack(new TrackId("t1"), 1), new SetArmed(new TrackId("t1"), false)] },
        { "TrackName", Kit, [new RenameTrack(new TrackId("t1"), "Hats")] },
        { "LostSide", Kit, [new AssignPort(Of("tom2"), 6), new SetPan(Of("tom2"), new Pan(1)), new RemoveTrack(new TrackId("t7")), new SetTrackWidth(new TrackId("t6"), Width.Stereo)] },
        { "LostSide", Kit, [new AssignPort(Of("tom2"), 6), new SetPan(Of("tom2"), new Pan(1)), new RemoveTrack(new TrackId("t7")), new RemoveTrack(new TrackId("t6"))] },
        { "LostSide", Kit, [new AssignPort(Of("tom2"), 6), new RemoveTrack(new TrackId("t7"))] }, // both on the left
        { "LostSide", Kit, [new AssignPort(Of("tom2"), 6), new SetPan(Of("tom2"), new Pan(0.5)), new RemoveTrack(new TrackId("t7"))] }, // one of them on both sides
        { "MixOnly", Drums, [.. Tracks(Drums).Select(t => new SetArmed(t, false))] },
        { "MeantElsewhere", Drums, [new AddTrack(new Track(new TrackId("t90"), "Kick", Width.Mono) { Input = new InputRef(Usb, 7), Armed = false })] },
        { "MeantElsewhere", Drums, [.. Shift(Drums, 1), .. Tracks(Drums).SelectMany(t => new Edit[] { new RenameTrack(t, "Part " + t.Value), new SetMeantFor(t, []) })] },
        { "Loopback", "siskin-mono", [.. Looped(), new SetArmed(new TrackId("t1"), false)] },
        { "Loopback", "siskin-mono", [.. Looped(), new SetMonitor(new TrackId("t90"), MonitorMode.Never)] },
        { "Loopback", "siskin-mono", [.. Looped(listens: 3)] },
        { "Merged", Kit, [new AssignPort(Of("tom2"), 6), new SetPan(Of("tom2"), new Pan(1))] },
        { "Merged", Kit, [new AssignPort(Of("tom2"), 6), new RemoveTrack(new TrackId("t6"))] },
        { "ReturnOnElement", Kit, [new AssignPort(Of("hall"), 5), new SetMuted(Of("hat"), true)] },
        { "ReturnOnElement", Kit, [new AssignPort(Of("hall"), 5), new SetMuted(Of("hall"), true)] },
        { "ReturnOnElement", Drums, [] }, // the mix, where it belongs
        { "ReturnOnElement", Kit, [.. Laid(Kit).Units[0].Elements.Select(e => new AssignPort(Of(e.ElementId.Value), null))] }, // everything is in one mix
        { "Merged", Kit, [.. Laid(Kit).Units[0].Elements.Select(e => new AssignPort(Of(e.ElementId.Value), null))] },
        { "Settle", Drums, [new SetPass(Pass(Drums) with { Looped = true }), new SetClock(U1, ClockMode.Free)] },
        { "Settle", Kit, [new SetPass(Pass(Kit) with { Looped = true })] },
        { "Level", Drums, [Shape("kick", 1.3)] },
        { "Level", Drums, [Shape("kick", 9), new SetPass(Pass(Drums) with { Format = SampleFormat.Float32 })] },
        { "OldCopy", Drums, [new AddUnit(BrindleSix.Chart)] },
        { "Settings", Drums, [] },
        { "SharedVoice", "heron-ten", [.. HeronTen.Chart.Elements.Where(e => e.SharedVoice is not null).GroupBy(e => e.SharedVoice).SelectMany(g => g.Skip(1)).Select(e => new SetSounds(Of(e.Id.Value), false))] },
        { "Doubled", Kit, [new AddTrack(new Track(new TrackId("t90"), "Again", Width.Mono) { Input = new InputRef(Usb, 3), Armed = false, Monitor = MonitorMode.Never })] },
        { "Doubled", Kit, [new AddTrack(new Track(new TrackId("t90"), "On the way", Width.Mono) { Input = new InputRef(Usb, 3), Armed = false, Monitor = MonitorMode.Always, Bus = new InputRef(new BankId("buses"), 1) })] },
        { "Doubled", Kit, [new AddTrackGroup("Sum", true), new SetTrackGroup(new TrackGroup(new TrackGroupId("g1"), "Sum", true) { Bus = new InputRef(new BankId("buses"), 1) }), new AddTrack(new Track(new TrackId("t90"), "On the way", Width.Mono) { Input = new InputRef(Usb, 3), Armed = false, Monitor = MonitorMode.Always, GroupId = new TrackGroupId("g1") })] },
        { "UnheardPort", Drums, [new SwitchInputs(Usb, 3, 3, false)] }, // a track waits there; another check tells
        { "EmptyTrack", Drums, [new SwitchInputs(Usb, 3, 3, false)] },
        { "SilentLine", Kit, [new SetMuted(Of("hall"), true)] },
        { "NoteOnly", "pocket-weir", [] },
        { "Speed", Drums, [new SetPass(Pass(Drums) with { InterfaceBytesPerSecond = 1 }), new SetBank(Bank(Drums) with { Connected = false })] },
        { "Merged", Drums, [] }, // the mix holds them all
        { "MoreLinesThanPorts", "pocket-weir", [new SetSounds(Of("steps"), true), new SetSounds(Of("chords"), true)] }, // notes need no port
        { "Loopback", "siskin-mono", [.. Looped(plugged: 3)] }, // on the next pair
        { "NotArmed", Drums, [.. Laid(Drums).Units[0].Elements.Where(e => e.ElementId.Value != "kick" && Laid(Drums).Units[0].Chart.Element(e.ElementId)!.Kind != ElementKind.Return).Select(e => new SetMuted(Of(e.ElementId.Value), true)), new AddTrack(new Track(new TrackId("t90"), "Mix", Width.Stereo) { Input = new InputRef(Usb, 1), Armed = false })] },
        { "Crossings", Kit, [new AddTrack(new Track(new TrackId("t90"), "Third", Width.Mono) { Input = new InputRef(new BankId("buses"), 3) }), new AddTrack(new Track(new TrackId("t91"), "First", Width.Mono) { Input = new InputRef(new BankId("buses"), 1) })] },
        { "SkippedNumber", Kit, [.. Only(("kick-out", 2), ("snare-top", 3), ("snare-bottom", 4), ("hat", 6), ("tom1", 9))] }, // two gaps are an order of their own
        { "SkippedNumber", Kit, [.. Skipping(new AssignPort(Of("ride"), null), new SetInMain(Of("ride"), false), new RemoveTrack(new TrackId("t10")))] }, // two numbers are missing
        { "MeantElsewhere", Drums, [.. Shift(Drums, 1), new SetBank(Bank(Drums) with { Connected = false })] },
        { "Level", Drums, [Shape("kick", -46.5)] },
        { "MusicalPan", Kit, [PannedApart("tom1", 0.01)] },
        { "MusicalPan", Kit, [PannedApart("tom1", 0.3), new SetTrackPan(new TrackId("t6"), new Pan(0.3))] },
        { "MusicalPan", Kit, [PannedApart("tom1", 0.3), new SetTrackWidth(new TrackId("t6"), Width.Stereo)] }, // both sides are recorded as they are
        { "SilentLine", "pocket-weir", [new SetSounds(Of("steps"), true)] }, // it only sends notes
        { "SilentLine", Drums, [new SetMode(U1, new ModeId("mix")), new SetInMain(Of("kick"), false)] }, // the mode keeps it back; another check tells
        { "Speed", Drums, [new SetPass(Pass(Drums) with { InterfaceBytesPerSecond = 12 * 48000 * 4 })] },
        { "MoreLinesThanPorts", Kit, [] },
        { "LostSide", Kit, [new AssignPort(Of("tom2"), 6), new SetPan(Of("tom2"), new Pan(1)), new RemoveTrack(new TrackId("t7")), new AddTrack(new Track(new TrackId("t90"), "Both", Width.Stereo) { Input = new InputRef(Usb, 11) })] },
        { "LostSide", Kit, [.. Only(), new AssignPort(Of("hat"), 1), new AssignPort(Of("tom2"), 1), new SetPan(Of("tom2"), new Pan(1)), new AddTrack(new Track(new TrackId("t90"), "Hat", Width.Mono) { Input = new InputRef(Usb, 1) })] }, // the mix is no pair to share
        { "Merged", Kit, [new AssignPort(Of("tom2"), 6), new SetPan(Of("tom2"), new Pan(1)), new SetPan(Of("tom1"), new Pan(-1))] },
    };

    public static TheoryData<string, string, Edit[], string, string?> Spoken => new()
    {
        { "CountIn", Drums, [NoCountIn(Drums)], "Mudlark Nine follows the recorder, and there is no count-in: the first beat may be missed. One bar is enough.", "Count in one bar" },
        { "Fader", Kit, [new SetFader(Of("tom1"), new Decibels(0.051))], "High tom's fader stands 0.1 dB above unity and port 6 listens after it: it prints 0.1 dB hotter and may clip.", "Set High tom's fader to unity" },
        { "Fader", Kit, [new SetFader(Of("tom1"), new Decibels(-3))], "High tom's fader stands 3.0 dB below unity and port 6 listens after it: it prints 3.0 dB lower than it could.", "Set High tom's fader to unity" },
        { "Tail", Drums, [Tail(1.24)], "Cymbal rings for 1.3 seconds, but the tail is only 1.2: its end will be cut off.", "Let the tail last as long as the longest decay" },
        { "Width", Kit, [new SetPan(Of("hat"), new Pan(-0.55))], "Hat is panned between the two sides of port 5, and Hat takes only one of them: it prints 0.6 dB too low.", "Pan Hat hard left" },
        { "Width", Kit, [new SetTrackWidth(new TrackId("t5"), Width.Stereo)], "Hat is mono, but Hat is stereo: the file is twice as big and holds no more.", "Make Hat mono" },
        { "Width", Kit, [new SetTrackWidth(new TrackId("t10"), Width.Mono)], "Overheads is stereo, but Overheads is mono and takes only one side of it: the other side is lost.", "Make Overheads stereo" },
        { "NotMonitored", Drums, [new SetMonitor(new TrackId("t1"), MonitorMode.Never)], "Kick is armed but never monitored: you will not hear it while it is recorded.", "Monitor Kick while armed" },
        { "NotArmed", Kit, [new SetArmed(new TrackId("t5"), false)], "Hat is not armed, and Hat is recorded nowhere else: there will be no file.", "Arm Hat" },
        { "NotArmed", Kit, [new AssignPort(Of("tom2"), 6), new RemoveTrack(new TrackId("t7")), new SetArmed(new TrackId("t6"), false)], "High tom is not armed, and High tom and Mid tom are recorded nowhere else: there will be no file.", "Arm High tom" },
        { "TrackName", Kit, [new RenameTrack(new TrackId("t5"), "  ")], "Track 5 has no name, so nobody can tell its file from the others.", "Call it Hat" },
        { "TrackName", Kit, [new AddTrack(new Track(new TrackId("t90"), "", Width.Mono))], "Track 13 has no name, so nobody can tell its file from the others.", "Call it Track 13" },
        { "TrackName", Kit, [new RenameTrack(new TrackId("t6"), " HAT ")], "Two tracks are called HAT: their files cannot be told apart.", "Call it High tom" },
        { "FileName", Kit, [new RenameTrack(new TrackId("t5"), "Hat|?")], "Hat|? has signs that a file name cannot have on every system (| ?): its file will be named without them.", "Call it Hat" },
        { "FileName", Kit, [new RenameTrack(new TrackId("t6"), "Hat?")], "Hat? has signs that a file name cannot have on every system (?): its file will be named without them.", null },
        { "Crossings", Kit, [new MoveTrack(new TrackId("t1"), 2)], "3 tracks on Return stand in another order than their inputs, so the numbers on the two sides disagree.", "Put the tracks into the order of their inputs" },
        { "InputOff", Kit, [new SwitchInputs(Usb, 21, 21, false)], "Room listens to Return 21-22, which is switched off in the recorder: nothing arrives there.", "Switch Return 21-22 on" },
        { "EmptyTrack", Kit, [new SetTrackInput(new TrackId("t5"), null)], "Hat is armed but has no input: its file would be empty.", "Disarm Hat" },
        { "SilentLine", Kit, [new SetMuted(Of("ride"), true)], "Ride plays in this song but is muted on Ostler Kit Room: it will not be recorded.", "Let Ride sound" },
        { "SilentLine", Kit, [new SetInMain(Of("kick-in"), false)], "Kick in has no port and was taken out of the main mix: it is not heard anywhere.", "Put Kick in into the main mix" },
        { "UnheardPort", Kit, [new RemoveTrack(new TrackId("t1"))], "Kick in goes out of port 1 of Ostler Kit Room (Return 1-2), and no track listens there: it will not be recorded.", "Add a track for Kick in on Return 1-2" },
        { "UnheardPort", Kit, [new RemoveTrack(new TrackId("t8"))], "Floor tom goes out of port 8 of Ostler Kit Room (Return 15-16), and no track listens there: it will not be recorded.", "Add a track for Floor tom on Return 15-16" },
        { "UnheardPort", Kit, [new AssignPort(Of("tom2"), 8), new SetPan(Of("tom2"), new Pan(1)), new RemoveTrack(new TrackId("t7")), new RemoveTrack(new TrackId("t8"))], "Mid tom and Floor tom go out of port 8 of Ostler Kit Room (Return 15-16), and no track listens there: they will not be recorded.", "Add a track for them on Return 15-16" },
        { "Doubled", Kit, [new AddTrack(new Track(new TrackId("t90"), "Again", Width.Mono) { Input = new InputRef(Usb, 3) })], "Kick out is there twice: on a track of their own and in Again. Silence Again, or the sum is louder than the music.", "Silence Again" },
        { "Merged", Kit, [new AssignPort(Of("tom2"), 6)], "High tom and Mid tom leave Ostler Kit Room together by port 6: they will be one file and cannot be mixed apart.", "Give Mid tom port 7 and a track" },
        { "ReturnOnElement", Kit, [new AssignPort(Of("hall"), 5)], "Hall return of Ostler Kit Room lands on port 5, on top of Hat: the effect will be in that file for good.", "Move Hall return to port 12" },
        { "LostSide", Kit, [new AssignPort(Of("tom2"), 6), new SetPan(Of("tom2"), new Pan(1)), new SetTrackInput(new TrackId("t6"), new InputRef(Usb, 12)), new RemoveTrack(new TrackId("t7")), new RenameTrack(new TrackId("t6"), "Middle")], "High tom leaves Ostler Kit Room by the left side of port 6, and no track takes that side: it will not be recorded.", "Add a track for High tom on Return 11" },
        { "MeantElsewhere", Drums, [.. Shift(Drums, 1)], "All 9 lines of Mudlark Nine sit 1 input too high: Kick listens to USB 4 but arrives on USB 3. The main mix was perhaps counted twice.", "Put the inputs of 9 lines right" },
        { "MeantElsewhere", Drums, [.. Shift(Drums, -2)], "All 9 lines of Mudlark Nine sit 2 inputs too low: Kick listens to USB 1 but arrives on USB 3. The main mix was perhaps counted as the first of them.", "Put the inputs of 9 lines right" },
        { "Mode", Drums, [new SetMode(U1, new ModeId("mix"))], "Mudlark Nine is set to Mix only, so nothing leaves by the ports of Kick, Snare, Rim, Clap, Closed hat, Open hat and 3 more. Set it to Separate.", "Set Mudlark Nine to Separate" },
        { "Settings", Drums, [new MakeSetting(U1, null, true), new MakeSetting(U1, 1, false)], "1 setting of Mudlark Nine is not ticked yet. First: Set clock to follow and start/stop to receive. Otherwise: The pattern does not start with the recorder.", "It is made: tick it" },
        { "Settings", Drums, [new MakeSetting(U1, 0, false), new MakeSetting(U1, 1, false)], "2 settings of Mudlark Nine are not ticked yet. First: Set USB outputs to separate. Otherwise: Inputs 3 to 12 stay silent; only the mix on 1-2 arrives.", "They are made: tick them" },
        { "Loopback", "siskin-mono", [.. Looped()], "Siskin Mono and Click play into Back 1-2 together: what is recorded there holds all of them.", "Take Click off the pair" },
        { "Loopback", "siskin-mono", [.. Looped(listens: 3, plugged: 3)], "Siskin Mono and Click play into Back 3-4 together: what is recorded there holds all of them.", "Take Click off the pair" },
        { "HeardDirectly", "siskin-mono", [new SetBank(Bank("siskin-mono") with { HeardDirectly = true })], "Siskin lead is heard twice: Return is heard directly at the interface, and the track is monitored besides. It sounds hollow, though the files are right.", "Stop hearing Return directly" },
        { "Level", Drums, [Shape("kick", 3)], "Kick is expected to reach +1.6 dB on Kick: its loudest notes will clip.", "Turn Kick down to −3.0 dB" },
        { "SkippedNumber", Kit, [.. Only(("kick-out", 2), ("snare-top", 3), ("snare-bottom", 4), ("hat", 6), ("tom1", 7))], "Ports 2 to 4 and 6 of Ostler Kit Room are used, but 5 was left out: a number was perhaps skipped.", null },
        { "SkippedNumber", Kit, [.. Skipping(new AssignPort(Of("ride"), 10))], "Ports 8 to 10 and 12 of Ostler Kit Room are used, but 11 was left out: a number was perhaps skipped.", null },
        { "FileName", Kit, [new RenameTrack(new TrackId("t5"), "Hat?*?")], "Hat?*? has signs that a file name cannot have on every system (? *): its file will be named without them.", "Call it Hat" },
        { "FileName", Kit, [new RenameTrack(new TrackId("t5"), "?*")], "?* has signs that a file name cannot have on every system (? *): its file will be named without them.", null },
        { "TrackName", Kit, [new RenameTrack(new TrackId("t5"), ""), new RenameTrack(new TrackId("t6"), "hat")], "Track 5 has no name, so nobody can tell its file from the others.", "Call it Hat 2" },
        { "Level", Drums, [Shape("kick", -46.8)], "Kick is expected to reach no more than −48.2 dB on Kick: turned up later, the noise of the gear comes up with it.", null },
        { "Loopback", "siskin-mono", [.. Looped(), new PullCables(U1), new PlugCables(U1, 1, 1, new InputRef(Loop, 2))], "Siskin Mono and Click play into Back 1-2 together: what is recorded there holds all of them.", "Take Click off the pair" },
        { "Speed", Drums, [new SetPass(Pass(Drums) with { DiskBytesPerSecond = 1_295_999 })], "9 channels at once write 1.3 MB a second, and the disk takes 1.3 MB: the recording would have holes. Use another disk, 16 or 24 bit, or more passes.", null },
        { "Fader", Kit, [new SetFader(Of("tom1"), new Decibels(0.05))], "High tom's fader stands 0.1 dB above unity and port 6 listens after it: it prints 0.1 dB hotter and may clip.", "Set High tom's fader to unity" },
        { "MusicalPan", Kit, [PannedApart("tom1", 0.3)], "High tom is panned hard only to share a port; in the music it stands 30 % right, but its track stands in the centre.", "Pan the track 30 % right" },
        { "Width", Kit, [new AssignPort(Of("tom2"), 5), new SetSounds(Of("tom2"), false), new SetTrackWidth(new TrackId("t5"), Width.Stereo)], "Hat is mono, but Hat is stereo: the file is twice as big and holds no more.", "Make Hat mono" },
        { "Speed", Drums, [new SetPass(Pass(Drums) with { InterfaceBytesPerSecond = 11 * 48000 * 4 })], "The inputs that are switched on bring 2.3 MB a second, and the interface carries 2.1 MB: it would drop out.", "Switch off the inputs that no track uses" },
        { "Speed", Drums, [new SetPass(Pass(Drums) with { InterfaceBytesPerSecond = 9 * 48000 * 4 })], "The inputs that are switched on bring 2.3 MB a second, and the interface carries 1.7 MB: it would drop out.", "Switch off the inputs that no track uses" },
        { "Speed", Drums, [new SetPass(Pass(Drums) with { InterfaceBytesPerSecond = 9 * 48000 * 4 - 1 })], "The inputs that are switched on bring 2.3 MB a second, and the interface carries 1.7 MB: it would drop out.", null },
        { "Doubled", Kit, [new AddTrack(new Track(new TrackId("t90"), "Again", Width.Mono) { Input = new InputRef(Usb, 3), Monitor = MonitorMode.Never })], "Kick out is there twice: on a track of their own and in Again. Silence Again, or the sum is louder than the music.", "Silence Again" },
        { "Merged", Kit, [new AssignPort(Of("hat"), null)], "Kick in and Hat leave Ostler Kit Room together by port 1: they will be one file and cannot be mixed apart.", "Give Hat port 5 and a track" },
        { "Merged", Kit, [new AssignPort(Of("tom2"), 6)], "High tom and Mid tom leave Ostler Kit Room together by port 6: they will be one file and cannot be mixed apart.", "Give Mid tom port 7 and a track" },
    };

    [Fact]
    public void Two_sources_that_listen_to_each_other_are_one_finding_whether_it_is_one_line_or_the_whole_row()
    {
        var (clean, song) = TwoSources();
        Track Of(string bank, int nth) => clean.Tracks.Where(t => t.Input!.BankId == new BankId(bank)).ElementAt(nth);
        Edit[] Exchange(params int[] lines) => [.. lines.SelectMany(n => new Edit[] { new SetTrackInput(Of("b-u1", n).Id, Of("b-u2", n).Input), new SetTrackInput(Of("b-u2", n).Id, Of("b-u1", n).Input) })];

        var one = Sessions.After(clean, Exchange(1));
        var told = Assert.Single(AllChecks.Look(SplitView.Of(one, song)), f => f.Check == "MeantElsewhere");
        Assert.Equal("Exchange their inputs", told.FixLabel);
        Assert.True(SplitJson.Same(clean, Sessions.After(one, told.Fix!)));

        var row = Sessions.After(clean, Exchange(0, 1, 2));
        told = Assert.Single(AllChecks.Look(SplitView.Of(row, song)), f => f.Check == "MeantElsewhere");
        Assert.Equal(
            "The rows of Mudlark Nine and Heron Ten are exchanged: 3 lines of Mudlark Nine listen to Heron USB and 3 lines of Heron Ten to Mudlark USB. Each file would hold the other source.",
            told.Sentence);
        Assert.Equal(6, told.Also.Length);
        Assert.True(SplitJson.Same(clean, Sessions.After(row, told.Fix!)));

        // One source alone on the other's row is not exchanged with it.
        var half = Sessions.After(clean, new SetTrackInput(Of("b-u1", 0).Id, Of("b-u2", 0).Input), new SetTrackInput(Of("b-u1", 1).Id, Of("b-u2", 1).Input));
        Assert.DoesNotContain("exchanged", Assert.Single(AllChecks.Look(SplitView.Of(half, song)), f => f.Check == "MeantElsewhere").Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_mended_in_the_second_pass_stays_in_it_and_knows_the_tracks_of_the_first()
    {
        var (split, song) = Sessions.Kit;
        Edit[] second = [new SetElementPass(Of("tom1"), 2), new SetElementPass(Of("tom2"), 2), new SetElementPass(Of("tom3"), 2)];
        split = Sessions.After(split, [.. second, .. new[] { "t6", "t7", "t8" }.Select(t => new SetTrackPass(new TrackId(t), 2)), new RenameTrack(new TrackId("t1"), "High tom"), new RemoveTrack(new TrackId("t6"))]);
        var lost = Assert.Single(AllChecks.Look(SplitView.Of(split, song)), f => f.Check == "UnheardPort");
        var added = Sessions.After(split, lost.Fix!).Tracks.Except(split.Tracks).Single();
        Assert.Equal(("High tom 2", 2), (added.Name, added.Pass));
        Assert.Equal(new string('x', 76), SplitView.Of(split, song).NewTrack(new string('x', 80), Width.Mono).Name); // a number has room behind it

        var turned = Sessions.After(split, new MoveTrack(new TrackId("t8"), -1));
        var crossed = Assert.Single(AllChecks.Look(SplitView.Of(turned, song)), f => f.Check == "Crossings");
        Assert.Equal(split.Tracks.Select(t => t.Id), Sessions.After(turned, crossed.Fix!).Tracks.Select(t => t.Id));
    }

    private static (Split Split, Song Song) TwoSources()
    {
        Chart[] charts = [MudlarkNine.Chart, HeronTen.Chart];
        var song = Song.Of(CheckPattern.Of(charts, Tempo.Default));
        return (Layer.Propose(SplitView.Of(StartingSplit.Of(charts, (int)song.Bars, 48000), song), new LayWish()).After, song);
    }

    [Theory]
    [MemberData(nameof(Near))]
    public void It_is_silent_where_it_is_only_near(string check, string chart, Edit[] edits)
    {
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(chart))!);
        Assert.DoesNotContain(AllChecks.Look(Sessions.View(Sessions.After(split, edits), song)), f => f.Check == check);
    }

    [Theory]
    [MemberData(nameof(Spoken))]
    public void It_says_what_will_happen_and_offers_to_mend_it(string check, string chart, Edit[] edits, string sentence, string? fix)
    {
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(chart))!);
        split = Sessions.After(split, edits);
        var before = AllChecks.Look(Sessions.View(split, song));
        var finding = Assert.Single(before, f => f.Check == check);
        Assert.Equal(sentence, finding.Sentence);
        Assert.Equal(fix, finding.FixLabel);
        Assert.Equal(OnlyWorthKnowing.Any(words => sentence.Contains(words, StringComparison.Ordinal)) ? Severity.Note : Severity.Warning, finding.Severity);
        if (finding.Fix is { } mend)
        {
            var after = AllChecks.Look(Sessions.View(Sessions.After(split, mend), song));
            Assert.DoesNotContain(after, f => f.Check == check);
            PlantedFault.Mends(before, finding, after);
        }
    }

    [Fact]
    public void A_fix_does_no_more_than_it_says()
    {
        Split Mended(string check, string chart, params Edit[] edits)
        {
            var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(chart))!);
            split = Sessions.After(split, edits);
            return Sessions.After(split, AllChecks.Look(Sessions.View(split, song)).Single(f => f.Check == check).Fix!);
        }

        Assert.Equal(1, Mended("CountIn", Drums, NoCountIn(Drums)).Pass.CountInBars);
        Assert.Equal(1, Mended("Settle", Drums, new SetPass(Pass(Drums) with { Looped = true })).Pass.SettleLoops);
        Assert.Null(Mended("Tail", Drums, Tail(0.1)).Pass.TailSeconds);
        Assert.Equal(new Decibels(-3), Mended("Level", Drums, Shape("kick", 3)).Units[0].Element(new ElementId("kick")).FaderDb);
        Assert.Equal(Pan.HardLeft, Mended("Width", Kit, new SetPan(Of("hat"), new Pan(-0.2))).Units[0].Element(new ElementId("hat")).Pan);
        Assert.Equal(Pan.HardRight, Mended("Width", Kit, new SetPan(Of("hat"), new Pan(-0.2)), new SetTrackInput(new TrackId("t5"), new InputRef(Usb, 10))).Units[0].Element(new ElementId("hat")).Pan);
        Assert.Contains(new InputRef(Usb, 11), Mended("LostSide", Kit, new AssignPort(Of("tom2"), 6), new SetPan(Of("tom2"), new Pan(1)), new SetTrackInput(new TrackId("t6"), new InputRef(Usb, 12)), new RemoveTrack(new TrackId("t7"))).Tracks.Select(t => t.Input));
        Assert.Equal(Tracks(Kit), Mended("Crossings", Kit, new MoveTrack(new TrackId("t3"), 5)).Tracks.Select(t => t.Id));
        Assert.Equal(Laid(Drums).Tracks.Select(t => t.Input), Mended("MeantElsewhere", Drums, [.. Shift(Drums, -1)]).Tracks.Select(t => t.Input));
    }

    [Fact]
    public void An_expected_peak_is_the_loudest_voice_as_it_is_set_and_none_where_nothing_arrives()
    {
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(Kit))!);
        var view = Sessions.View(split, song);
        Assert.Null(ExpectedPeak.On(view, Of("hat"), new TrackId("t1")));
        Assert.Null(ExpectedPeak.On(view, Of("hall"), new TrackId("t12")));
        var before = ExpectedPeak.On(view, Of("hat"), new TrackId("t5"))!.Value.Value;
        double After(params Edit[] edits) => ExpectedPeak.On(Sessions.View(Sessions.After(split, edits), song), Of("hat"), new TrackId("t5"))!.Value.Value;
        Assert.Equal(before - 4, After(new SetFader(Of("hat"), new Decibels(-4))), 1e-9);

        // It hears two voices of its own, closed and open; only the louder of them counts, and bleed never.
        double With(double closed, double open, double kick) => After([.. new[] { ("hat", closed), ("hat-open", open), ("kick", kick) }.Select(v => new ShapeVoice(U1, new UnitVoice(new VoiceId(v.Item1)) { LevelDb = new Decibels(v.Item2) }))]);
        Assert.Equal(With(0, -60, 0), With(-60, -60, 0) + 60, 1.0);
        Assert.Equal(With(0, 12, 0), With(-60, 12, 12));
        Assert.Equal(With(12, 0, 0), With(12, -60, 12));
    }

    [Fact]
    public void What_stops_every_pass_is_never_put_under_another_finding()
    {
        // A loop that lasts until the narrow mode is put right would go with it, and stands first all the same.
        var (split, song) = Sessions.Drums;
        var looped = Sessions.After(
            split,
            new SetMode(U1, new ModeId("mix")),
            new MarkRestarted(U1),
            new AddTrack(new Track(new TrackId("t90"), "Echo", Width.Mono) { Input = new InputRef(new BankId("buses"), 1), Bus = new InputRef(new BankId("buses"), 1) }));
        var findings = AllChecks.Look(Sessions.View(looped, song));
        Assert.Equal(("Loop", Severity.Stop, null), (findings[0].Check, findings[0].Severity, findings[0].Under));
        Assert.Contains(findings, f => f.Under is not null);
        Assert.All(findings.Where(f => f.Severity == Severity.Stop), f => Assert.Null(f.Under));
    }

    [Fact]
    public void A_line_that_is_expected_to_reach_full_scale_exactly_is_warned_of_and_one_just_below_is_not()
    {
        var (split, song) = Sessions.Drums;
        Finding? Told(double db) => AllChecks.Look(Sessions.View(Sessions.After(split, new ShapeVoice(U1, split.Units[0].Voice(new VoiceId("kick")) with { LevelDb = new Decibels(db) })), song)).FirstOrDefault(f => f.Check == "Level" && f.Sentence.Contains("clip", StringComparison.Ordinal));
        var (low, high) = (-12.0, 12.0);
        for (var i = 0; i < 60; i++)
        {
            var middle = (low + high) / 2;
            (low, high) = Told(middle) is null ? (middle, high) : (low, middle);
        }

        // At the edge the peak that is told is 0.0 dB: not a hundredth above it, nor below.
        Assert.Contains("0.0 dB", Told(high)!.Sentence, StringComparison.Ordinal);
        Assert.Null(Told(high - 0.001));
        Assert.NotNull(Told(high + 0.001));
    }

    [Fact]
    public void A_document_from_before_tracks_had_a_meaning_gives_the_same_findings()
    {
        foreach (var (split, song) in new[] { Sessions.Drums, Sessions.Kit })
        {
            foreach (var edits in new Edit[][] { [], [new SetTrackInput(split.Tracks[0].Id, split.Tracks[1].Input), new SetTrackInput(split.Tracks[1].Id, split.Tracks[0].Input)], [new SetMode(U1, split.Units[0].Chart.Modes[0].Id)], [new SetArmed(split.Tracks[2].Id, false)] })
            {
                var now = Sessions.After(split, edits);
                var document = System.Text.Json.Nodes.JsonNode.Parse(SplitJson.Write(now))!;
                foreach (var track in document["tracks"]!.AsArray())
                {
                    track!.AsObject().Remove("meantFor");
                    track.AsObject().Remove("levelGroups");
                }

                foreach (var unit in document["units"]!.AsArray())
                {
                    unit!.AsObject().Remove("noteRoutes");
                    unit.AsObject().Remove("portLevels");
                }

                var old = SplitVersions.Read(document.ToJsonString(), 1);
                Assert.True(old.Ok, old.Trouble);
                Assert.Equal(
                    AllChecks.Look(Sessions.View(now, song)).Select(f => (f.Id, f.Under, f.Sentence, f.FixLabel)),
                    AllChecks.Look(Sessions.View(old.Value!, song)).Select(f => (f.Id, f.Under, f.Sentence, f.FixLabel)));
            }
        }
    }

    [Fact]
    public void A_port_of_ones_own_beside_the_groups_is_worth_knowing_and_no_more()
    {
        var (split, song) = Sessions.Laid(TansyGrid.Chart);
        Finding[] Told(params Edit[] edits) => [.. AllChecks.Look(Sessions.View(Sessions.After(split, edits), song)).Where(f => f.Check == "GroupAndElement")];
        Assert.Empty(Told());
        var told = Told(new SetGroup(U1, new UnitGroup("Group A") { Port = 4 }));
        Assert.Equal(Enumerable.Range(1, told.Length).Select(n => new Place($"element:u1/a{n}")), told.Select(f => f.Place));
        Assert.All(told, f => Assert.Equal(Severity.Note, f.Severity));
        Assert.Equal($"A1 has port {split.Units[0].Element(new ElementId("a1")).Port} of its own, while Group A leaves by port 4: it is not in the group's file.", told[0].Sentence);
        Assert.Equal("Let A1 follow Group A", told[0].FixLabel);
    }

    [Fact]
    public void Outputs_that_wait_for_a_restart_are_one_finding()
    {
        var song = Sessions.Laid(FennelSampler.Chart).Song;
        var declared = Sessions.After(Sessions.Laid(FennelSampler.Chart).Split, new DeclarePorts(U1, 1, Width.Mono, "Out", 1));
        var split = Sessions.After(declared, new AssignPort(Of("kick"), 2), new AddTrack(new Track(new TrackId("t90"), "Kick", Width.Mono) { Input = new InputRef(declared.Banks[0].Id, 3) }));
        var waiting = AllChecks.Look(Sessions.View(split, song));
        var restarted = AllChecks.Look(Sessions.View(Sessions.After(split, new MarkRestarted(U1)), song));
        Assert.Equal(["Restart"], waiting.Select(f => f.Check).Except(restarted.Select(f => f.Check)));
        Assert.Equal(restarted.Select(f => f.Sentence), waiting.Where(f => f.Check != "Restart").Select(f => f.Sentence));
    }

    [Fact]
    public void Elements_that_share_a_voice_are_told_at_the_first_of_them()
    {
        var (split, song) = Sessions.Laid(HeronTen.Chart);
        var told = AllChecks.Look(Sessions.View(split, song)).Where(f => f.Check == "SharedVoice").ToList();
        var sharers = HeronTen.Chart.Elements.Where(e => e.SharedVoice is not null).GroupBy(e => e.SharedVoice).ToList();
        Assert.Equal(sharers.Select(g => Place.Of(Of(g.First().Id.Value))).ToHashSet(), told.Select(f => f.Place).ToHashSet());
        Assert.Equal(sharers.Count, told.Count);
    }

    [Fact]
    public void What_no_cable_leads_to_the_recorder_is_told_port_by_port()
    {
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(Kit))!);
        var bare = Sessions.After(split, new AssignPort(Of("tom2"), 6), new SetBank(Bank(Kit) with { Connected = false }));
        var told = AllChecks.Look(Sessions.View(bare, song)).Where(f => f.Check == "UnheardPort").Select(f => f.Sentence).ToList();
        Assert.Contains("Hat goes out of port 5 of Ostler Kit Room, and no cable leads from it to the recorder: plug one in, or connect Ostler Kit Room by USB.", told);
        Assert.Contains("High tom and Mid tom go out of port 6 of Ostler Kit Room, and no cable leads from it to the recorder: plug one in, or connect Ostler Kit Room by USB.", told);
        Assert.Equal(11, told.Count);
    }

    [Fact]
    public void An_effect_alone_on_its_track_is_missed_and_one_in_a_mix_is_not()
    {
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(Kit))!);
        string[] Told(params Edit[] edits) => [.. AllChecks.Look(Sessions.View(Sessions.After(split, edits), song)).Where(f => f.Check == "NotArmed").Select(f => f.Sentence)];
        Edit[] alone = [new AssignPort(Of("hall"), null), new AssignPort(Of("kick-in"), 12), new SetTrackInput(new TrackId("t12"), new InputRef(Usb, 23)), new SetArmed(new TrackId("t1"), false)];
        Assert.Equal(["Kick in is not armed, and Hall return is recorded nowhere else: there will be no file."], Told(alone));
        Assert.Empty(Told([.. alone[..2], new AssignPort(Of("kick-in"), null), new AddTrack(new Track(new TrackId("t90"), "Again", Width.Mono) { Input = new InputRef(Usb, 1) }), alone[3]]));
    }

    [Fact]
    public void A_return_in_the_mix_is_told_once_an_element_has_left_it()
    {
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(Kit))!);
        var mixed = Sessions.After(split, [.. split.Units[0].Elements.Where(e => e.ElementId.Value != "hat").Select(e => new AssignPort(Of(e.ElementId.Value), null))]);
        Assert.Contains(AllChecks.Look(Sessions.View(mixed, song)), f => f.Check == "ReturnOnElement" && f.Sentence.StartsWith("Hall return of Ostler Kit Room lands on port 1, on top of Kick in", StringComparison.Ordinal));
    }

    [Fact]
    public void What_was_accepted_comes_after_all_else_whatever_its_weight()
    {
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(Kit))!);
        var faulty = Sessions.After(split, new SetArmed(new TrackId("t5"), false), new SetFader(Of("tom1"), new Decibels(-3)));
        Assert.Equal([("NotArmed", Severity.Warning), ("Fader", Severity.Note)], AllChecks.Look(Sessions.View(faulty, song)).Select(f => (f.Check, f.Severity)));
        var warning = AllChecks.Look(Sessions.View(faulty, song))[0];
        var accepted = Sessions.After(faulty, new AcceptFinding(new AcceptedFinding(warning.Key, warning.Sentence, "The hats come from elsewhere.")));
        Assert.Equal([("Fader", null), ("NotArmed", "The hats come from elsewhere.")], AllChecks.Look(Sessions.View(accepted, song)).Select(f => (f.Check, f.Accepted)));
    }

    [Fact]
    public void Numbers_are_missed_only_where_each_element_has_its_choice()
    {
        var (split, song) = Sessions.Laid(OstlerKitRoom.Chart);
        var left = Sessions.After(split, [.. Skipping(new AssignPort(Of("ride"), 10))]);
        bool Told(Chart chart) => AllChecks.Look(Sessions.View(left with { Units = [left.Units[0] with { Chart = chart }] }, song)).Any(f => f.Check == "SkippedNumber");
        var kit = OstlerKitRoom.Chart;
        Assert.True(Told(kit));
        Assert.False(Told(kit with { Elements = kit.Elements.SetItem(0, kit.Elements[0] with { Ports = [1] }) }));
    }

    [Fact]
    public void Pads_together_on_the_port_of_their_group_are_meant_and_a_stranger_among_them_is_not()
    {
        var (split, song) = Sessions.Laid(TansyGrid.Chart);
        bool Told(params Edit[] edits) => AllChecks.Look(Sessions.View(Sessions.After(split, edits), song)).Any(f => f.Check == "Merged" && f.Place == Place.OfPort(U1, 4));
        Edit[] grouped =
        [
            .. split.Units[0].Elements.Select(e => new AssignPort(new ElementRef(U1, e.ElementId), null)), .. split.Tracks.Select(t => new RemoveTrack(t.Id)),
            new SetGroup(U1, new UnitGroup("Group A") { Port = 4 }), new AddTrack(new Track(new TrackId("t90"), "Group A", Width.Stereo) { Input = split.InputOf(split.Units[0], split.Units[0].Chart.Port(4)!.FirstChannel) }),
        ];
        Assert.False(Told(grouped));
        Assert.True(Told([.. grouped, new AssignPort(Of("b1"), 4)]));
    }

    [Fact]
    public void The_port_that_is_looked_at_is_the_one_that_carries_the_element()
    {
        // Both sides of the track come from a port of their own, and the first of them brings nothing.
        var (split, song) = Sessions.Laid(Shelf.Find(new ChartId(Drums))!);
        var second = Sessions.After(split, [.. Tracks(Drums).Skip(2).Select(t => new RemoveTrack(t)), new RemoveTrack(new TrackId("t1")), new SetTrackInput(new TrackId("t2"), null), new SetTrackWidth(new TrackId("t2"), Width.Stereo), new SetTrackInput(new TrackId("t2"), new InputRef(Usb, 3)), new SetMuted(Of("kick"), true)]);
        var finding = Assert.Single(AllChecks.Look(Sessions.View(second, song)), f => f.Check == "Width");
        Assert.Equal("Make Snare mono", finding.FixLabel);
        var mended = Sessions.After(second, finding.Fix!);
        Assert.Equal((Width.Mono, new InputRef(Usb, 4)), (mended.Tracks[0].Width, mended.Tracks[0].Input));
        Assert.DoesNotContain(AllChecks.Look(Sessions.View(mended, song)), f => f.Place == Place.Of(mended.Tracks[0]));
    }

    [Fact]
    public void A_fader_is_offered_only_where_the_recorded_port_listens_after_it()
    {
        // The mix listens after the faders; the port that is recorded is another one.
        var chart = MudlarkNine.Chart;
        string? Offered(Tap tap)
        {
            var (split, song) = Sessions.Laid(chart with { Ports = chart.Ports.SetItem(1, chart.Ports[1] with { Tap = tap }) });
            return Assert.Single(AllChecks.Look(Sessions.View(Sessions.After(split, Shape("kick", 6)), song)), f => f.Check == "Level").FixLabel;
        }

        Assert.StartsWith("Turn Kick down to", Offered(Tap.AfterFader), StringComparison.Ordinal);
        Assert.Null(Offered(Tap.BeforeFader));
    }

    private static ElementRef Of(string element) => new(U1, new ElementId(element));

    /// <summary>An element that stood somewhere in the music, and was then panned hard for the sake of its port.</summary>
    private static Several PannedApart(string element, double musical) =>
        new("Pan apart", [new SetPan(Of(element), new Pan(musical)), new PanApart(Of(element), 0)]);

    private static Split Laid(string chart) => Sessions.Laid(Shelf.Find(new ChartId(chart))!).Split;

    private static PassSettings Pass(string chart) => Laid(chart).Pass;

    private static Bank Bank(string chart) => Laid(chart).Banks[0];

    private static IEnumerable<TrackId> Tracks(string chart) => Laid(chart).Tracks.Select(t => t.Id);

    private static SetPass NoCountIn(string chart) => new(Pass(chart) with { CountInBars = 0 });

    private static SetPass Tail(double seconds) => new(Pass(Drums) with { TailSeconds = seconds });

    private static ShapeVoice Shape(string voice, double level) => new(U1, new UnitVoice(new VoiceId(voice)) { LevelDb = new Decibels(level) });

    /// <summary>Some microphones on ports, and all others nowhere; no track is left.</summary>
    private static IEnumerable<Edit> Only(params (string Element, int Port)[] ports) =>
    [
        .. Laid(Kit).Units[0].Elements.SelectMany(e => new Edit[] { new AssignPort(Of(e.ElementId.Value), null), new SetInMain(Of(e.ElementId.Value), false) }),
        .. ports.Select(p => new AssignPort(Of(p.Element), p.Port)),
        .. Tracks(Kit).Select(t => new RemoveTrack(t)),
    ];

    /// <summary>The microphones on ports up to 9, and the room on 12.</summary>
    private static IEnumerable<Edit> Skipping(params Edit[] between) =>
    [
        new AssignPort(Of("hall"), null), new SetInMain(Of("hall"), false), new RemoveTrack(new TrackId("t12")),
        new AssignPort(Of("room"), 12), new SetTrackInput(new TrackId("t11"), new InputRef(Usb, 23)), new AssignPort(Of("overheads"), 9), .. between,
    ];

    private static IEnumerable<Edit> Shift(string chart, int step) => Laid(chart).Tracks.Select(t => new SetTrackInput(t.Id, t.Input! with { Channel = t.Input.Channel + step }));

    /// <summary>The lead into a looped-back pair by a cable, a track that records a pair of that row, and a click on the first pair besides.</summary>
    private static IEnumerable<Edit> Looped(int listens = 1, int plugged = 1) =>
    [
        new AddBank(BankKind.Loopback, "Back", 4),
        new PlugCables(U1, 1, 2, new InputRef(Loop, plugged)),
        new SetTrackInput(new TrackId("t1"), null),
        new SetTrackWidth(new TrackId("t1"), Width.Stereo),
        new SetTrackInput(new TrackId("t1"), new InputRef(Loop, listens)),
        new AddTrack(new Track(new TrackId("t90"), "Click", Width.Stereo) { Input = new InputRef(Usb, 1), Bus = new InputRef(Loop, plugged), Armed = false, Monitor = MonitorMode.Always }),
    ];
}

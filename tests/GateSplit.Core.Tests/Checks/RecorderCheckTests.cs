using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Checks;

/// <summary>The checks about the recorder's side: inputs, cables, loopback, hearing, levels, room.</summary>
public sealed class RecorderCheckTests
{
    private static readonly Edit[] None = [];
    private static readonly InputRef Loop = new(new BankId("in1"), 1);

    private static PassSettings Pass(string chart) => Sessions.Laid(Shelf.Find(new ChartId(chart))!).Split.Pass;

    private static Bank Usb(string chart) => Sessions.Laid(Shelf.Find(new ChartId(chart))!).Split.Banks[0];

    /// <summary>Check, chart, what makes the split right, what plants the fault, words of the sentence, whether there is a fix.</summary>
    public static TheoryData<string, string, Edit[], Edit[], string, bool> Planted => new()
    {
        { "InputOff", "mudlark-nine", None, [new SwitchInputs(new BankId("b-u1"), 3, 3, false)], "Kick listens to USB 3, which is switched off in the recorder", true },
        { "InputOff", "ostler-kit-room", None, [new SwitchInputs(new BankId("b-u1"), 20, 20, false)], "Overheads listens to Return 19-20, which is switched off", true },
        { "InputWidth", "mudlark-nine", None, [new SetBank(Usb("mudlark-nine") with { Widths = InputWidths.PairsOnly }), new SetArmed(new TrackId("t2"), true)], "Kick cannot listen to USB 3. USB offers its inputs only as pairs", true },
        {
            "Loopback", "siskin-mono",
            [new AddBank(BankKind.Loopback, "Back", 2), new PlugCables(new UnitId("u1"), 1, 2, Loop), new SetTrackInput(new TrackId("t1"), null), new SetTrackWidth(new TrackId("t1"), Width.Stereo), new SetTrackInput(new TrackId("t1"), Loop)],
            [new AddTrack(new Track(new TrackId("t90"), "Click", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 1), Bus = Loop, Armed = false, Monitor = MonitorMode.Always })],
            "Siskin Mono and Click play into Back 1-2 together", true
        },
        { "HeardDirectly", "mudlark-nine", None, [new SetBank(Usb("mudlark-nine") with { HeardDirectly = true })], "are heard twice: USB is heard directly at the interface", true },
        {
            "MusicalPan", "ostler-kit-room",
            [new SetPan(new(new UnitId("u1"), new ElementId("tom1")), new Pan(0.3)), new PanApart(new(new UnitId("u1"), new ElementId("tom1")), 0), new SetTrackWidth(new TrackId("t6"), Width.Mono), new SetTrackPan(new TrackId("t6"), new Pan(0.3))],
            [new SetTrackPan(new TrackId("t6"), new Pan(0))],
            "in the music it stands 30 % right, but its track stands in the centre", true
        },
        { "Level", "mudlark-nine", None, [new ShapeVoice(new UnitId("u1"), new UnitVoice(new VoiceId("kick")) { LevelDb = new Decibels(9) })], "Kick is expected to reach +7", true },
        { "Level", "mudlark-nine", None, [new SetFader(new(new UnitId("u1"), new ElementId("cymbal")), new Decibels(-60))], "Cymbal is expected to reach no more than", false },
        { "Settle", "mudlark-nine", [new SetPass(Pass("mudlark-nine") with { Looped = true, SettleLoops = 1 })], [new SetPass(Pass("mudlark-nine") with { Looped = true })], "Mudlark Nine needs a round to lock to the clock", true },
        { "Settings", "mudlark-nine", [new MakeSetting(new UnitId("u1"), null, true)], [new MakeSetting(new UnitId("u1"), 0, false)], "1 setting of Mudlark Nine is not ticked yet. First: Set USB outputs to separate.", true },
        { "OldCopy", "mudlark-nine", None, [new AddUnit(MudlarkNine.Chart)], "Mudlark Nine 2 plays the same notes as Mudlark Nine, and no track takes it", true },
        { "OldCopy", "mudlark-nine", None, [new AddUnit(MudlarkNine.Chart), new AddTrack(new Track(new TrackId("t60"), "Old kick", Width.Mono) { Input = new InputRef(new BankId("b-u2"), 3), Armed = false, Monitor = MonitorMode.Never, MeantFor = [Meant.For(new(new UnitId("u2"), new ElementId("kick")))] })], "Mudlark Nine 2 plays the same notes as Mudlark Nine, and no armed track takes it", true },
        { "GoneSource", "mudlark-nine", None, [new AddUnit(OstlerKitRoom.Chart), new AddTrack(new Track(new TrackId("t60"), "Tom", Width.Mono) { MeantFor = [Meant.For(new(new UnitId("u2"), new ElementId("tom1")))] }), new AddTrack(new Track(new TrackId("t61"), "Ride", Width.Mono) { MeantFor = [Meant.For(new(new UnitId("u2"), new ElementId("ride")))] }), new RemoveUnit(new UnitId("u2"))], "Tom and Ride were made for a source that is not there any more", true },
        { "UnfedBus", "mudlark-nine", None, [new SetTrackBus(new TrackId("t1"), new InputRef(new BankId("buses"), 1)), new SetArmed(new TrackId("t1"), false), new AddTrack(new Track(new TrackId("t60"), "Stem", Width.Mono) { Input = new InputRef(new BankId("buses"), 1) })], "Nothing arrives on Bus 1: Kick feeds it, but is neither armed nor monitored. Stem would be empty.", true },
        {
            // 9 mono tracks of 3 bytes at 48 kHz are 1 296 000 bytes a second.
            "Speed", "mudlark-nine", [new SetPass(Pass("mudlark-nine") with { DiskBytesPerSecond = 1_296_000 })],
            [new SetPass(Pass("mudlark-nine") with { DiskBytesPerSecond = 1_295_999 })], "9 channels at once write 1.3 MB a second", false
        },
        {
            // 12 inputs in slots of 4 bytes are 2 304 000; the nine that are listened to 1 728 000.
            "Speed", "mudlark-nine", [new SetPass(Pass("mudlark-nine") with { InterfaceBytesPerSecond = 2_304_000 })],
            [new SetPass(Pass("mudlark-nine") with { InterfaceBytesPerSecond = 1_728_000 })], "it would drop out", true
        },
    };

    [Theory]
    [MemberData(nameof(Planted))]
    public void A_planted_fault_is_told_and_mended_and_before_there_was_silence(
        string check, string chart, Edit[] right, Edit[] wrong, string words, bool hasFix) =>
        PlantedFault.Look(check, chart, right, wrong, words, hasFix);

    [Fact]
    public void Too_little_room_on_the_disk_is_told_to_the_byte()
    {
        var (split, song) = Sessions.Drums;
        IEnumerable<Finding> With(long free) => AllChecks.Look(new SplitView(split, Sessions.View(split, song).Sounding, new DiskSpace(1000, new(free)))).Where(f => f.Check == "DiskSpace");
        Assert.Empty(With(1000));
        Assert.Contains("it cannot be kept", Assert.Single(With(999)).Sentence);
        Assert.True(Assert.Single(With(0)).ToMend);
    }

    [Fact]
    public void A_source_without_a_cable_says_so_and_one_with_cables_is_silent()
    {
        var (split, song) = Sessions.Drums;
        var analog = Sessions.After(
            split,
            new AddBank(BankKind.Analog, "Analog", 16),
            new SetBank(split.Banks[0] with { Connected = false }));
        Assert.Contains(Look(analog, song), f => f.Check == "UnheardPort" && f.Sentence.Contains("no cable leads from it to the recorder"));

        var laid = Layer.Propose(Sessions.View(analog, song), new LayWish(Anew: true)).After;
        Assert.DoesNotContain(Look(laid, song), f => f.ToMend);
        Assert.Equal(1, laid.Passes);
        Assert.Equal(9, laid.Cables.Length);
    }

    private static IReadOnlyList<Finding> Look(Split split, Song song) => AllChecks.Look(Sessions.View(split, song));
}

using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Checks;

/// <summary>Each check speaks where a fault is planted in a sound split, and is silent before.</summary>
public sealed class CheckTests
{
    private static readonly (Split Split, Song Song) Drums = Sessions.Drums;
    private static readonly (Split Split, Song Song) Kit = Sessions.Kit;

    private static ElementRef OfKit(string id) => Sessions.Element(Kit.Split, id);

    private static string KitTrack(string name) => Sessions.TrackOf(Kit.Split, name).Id.Value;

    public static TheoryData<string, bool, Edit[], string> Planted => new()
    {
        { "Loop", true, [new AddTrack(new Track(new TrackId("t90"), "Echo", Width.Mono) { Input = new InputRef(new BankId("buses"), 1), Bus = new InputRef(new BankId("buses"), 1) })], "Echo, then Echo" },
        { "Mode", false, [new SetMode(new UnitId("u1"), new ModeId("mix"))], "Mudlark Nine is set to Mix only" },
        { "SilentLine", true, [new SetMuted(OfKit("ride"), true)], "Ride plays in this song but is muted" },
        { "SilentLine", true, [new SetInMain(OfKit("kick-in"), false)], "not heard anywhere" },
        { "UnheardPort", true, [new RemoveTrack(new TrackId(KitTrack("Floor tom")))], "Floor tom goes out of port 8 of Ostler Kit Room (Return 15-16), and no track listens there" },
        { "EmptyTrack", true, [new SetTrackInput(new TrackId(KitTrack("Hat")), null)], "has no input" },
        { "EmptyTrack", false, [new SetTrackInput(new TrackId("t2"), new InputRef(new BankId("b-u1"), 12))], "nothing that plays in this song arrives on USB 12" },
        { "Doubled", false, [new AddTrack(new Track(new TrackId("t90"), "Mix", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 1) })], "there twice" },
        { "Doubled", true, [new AddTrack(new Track(new TrackId("t90"), "Again", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 3) })], "Kick out is there twice" },
        { "Merged", true, [new AssignPort(OfKit("tom2"), 6)], "High tom and Mid tom leave Ostler Kit Room together by port 6" },
        { "ReturnOnElement", true, [new AssignPort(OfKit("hall"), 5)], "Hall return of Ostler Kit Room lands on port 5, on top of Hat" },
        { "SilentSide", true, [new SetPan(OfKit("overheads"), Pan.HardLeft)], "Overheads's balance stands hard left: the right side of what is recorded of it will be silent" },
        { "SilentSide", true, [new SetPan(OfKit("room"), Pan.HardRight)], "Room's balance stands hard right: the left side" },
        { "Width", true, [new SetTrackWidth(new TrackId(KitTrack("Overheads")), Width.Mono)], "the other side is lost" },
        { "Width", true, [new SetPan(OfKit("hat"), new Pan(0))], "prints 3.0 dB too low" },
        { "Width", true, [new SetTrackWidth(new TrackId(KitTrack("Hat")), Width.Stereo)], "twice as big" },
        { "Fader", true, [new SetFader(OfKit("tom1"), new Decibels(4))], "4.0 dB above unity" },
        { "Fader", true, [new SetFader(OfKit("tom1"), new Decibels(-4))], "4.0 dB below unity" },
        { "NotArmed", true, [new SetArmed(new TrackId(KitTrack("Room")), false)], "Room is not armed" },
        { "NotMonitored", true, [new SetMonitor(new TrackId(KitTrack("Room")), MonitorMode.Never)], "never monitored" },
        { "TrackName", true, [new RenameTrack(new TrackId(KitTrack("Room")), " ")], "has no name" },
        { "TrackName", true, [new RenameTrack(new TrackId(KitTrack("Room")), "hat")], "Two tracks are called hat" },
    };

    [Fact]
    public void Laid_sessions_have_nothing_to_mend()
    {
        foreach (var (split, song) in new[] { Drums, Kit })
        {
            Assert.DoesNotContain(AllChecks.Look(Sessions.View(split, song)), f => f.ToMend);
        }

        Assert.Empty(AllChecks.Look(Sessions.View(Kit.Split, Kit.Song)));
    }

    [Theory]
    [MemberData(nameof(Planted))]
    public void A_planted_fault_is_told(string check, bool kit, Edit[] edits, string words)
    {
        var (clean, song) = kit ? Kit : Drums;
        var findings = AllChecks.Look(Sessions.View(Sessions.After(clean, edits), song));
        var finding = Assert.Single(findings, f => f.Check == check && f.Sentence.Contains(words));
        Assert.EndsWith(".", finding.Sentence);
    }

    [Theory]
    [MemberData(nameof(Planted))]
    public void Its_fix_removes_it_and_adds_nothing_of_more_weight(string check, bool kit, Edit[] edits, string words)
    {
        var (clean, song) = kit ? Kit : Drums;
        var split = Sessions.After(clean, edits);
        var before = AllChecks.Look(Sessions.View(split, song));
        var finding = before.Single(f => f.Check == check && f.Sentence.Contains(words));
        Assert.NotNull(finding.Fix);
        var after = AllChecks.Look(Sessions.View(Sessions.After(split, finding.Fix), song));
        PlantedFault.Mends(before, finding, after);
    }

    [Fact]
    public void Every_rule_has_a_planted_fault()
    {
        // The last six need other sessions and have tests of their own.
        var planted = Planted.Select(row => row.Data.Item1)
            .Concat(SourceCheckTests.Planted.Select(row => row.Data.Item1))
            .Concat(RecorderCheckTests.Planted.Select(row => row.Data.Item1))
            .Concat(["Unplayed", "GroupAndElement", "MoreLinesThanPorts", "Clock", "UnnamedUnits", "DiskSpace"])
            .ToHashSet();
        Assert.All(AllChecks.Rules, r => Assert.Contains(r.GetType().Name[..^"Check".Length], planted));
    }

    [Fact]
    public void Fog_Signal_tells_exactly_its_planted_faults()
    {
        var findings = AllChecks.Look(Sessions.View(Sessions.Fog.Split, Sessions.Fog.Song));
        Assert.Equal(
            ["Doubled@track:t9", "Fader@element:u1/tom-low", "HeardDirectly@bank:b-u1/1", "InputOff@track:t8", "MeantElsewhere@track:t1", "MeantElsewhere@unit:u2", "ReturnOnElement@element:u2/hall", "UnheardPort@port:u1/5"],
            findings.Where(f => f.ToMend).Select(f => f.Key).Order(StringComparer.Ordinal));

        // Once the lines of the keys are where they arrive, the pan that the pad has in the music is missed on its track.
        var keys = findings.Single(f => f.Key == "MeantElsewhere@unit:u2");
        Assert.StartsWith("All 4 lines of Wicker Keys sit 2 inputs too high", keys.Sentence, StringComparison.Ordinal);
        Assert.Contains(
            AllChecks.Look(Sessions.View(Sessions.After(Sessions.Fog.Split, keys.Fix!), Sessions.Fog.Song)),
            f => f.Check == "MusicalPan" && f.Sentence.Contains("in the music it stands 30 % right", StringComparison.Ordinal));
    }

    [Fact]
    public void Relief_Boat_takes_two_passes_over_its_eight_sockets_and_has_nothing_to_mend()
    {
        var boat = ReliefBoat.Session;
        var view = Sessions.View(boat.Split, Song.Of(boat.Song));
        Assert.DoesNotContain(AllChecks.Look(view), f => f.ToMend);
        Assert.Equal(2, boat.Split.Passes);

        // Six stereo parts and two mono boxes: four pairs fill the first pass, two pairs and two single ones the second.
        Assert.Equal([8, 6], boat.Split.Tracks.GroupBy(t => t.Pass).OrderBy(g => g.Key).Select(g => g.Sum(t => (int)t.Width)));
        Assert.Equal(14, boat.Split.Cables.Length);
        var times = PassTimes.Of(view, Song.Of(boat.Song));
        Assert.Equal(times.BodyFrames, times.SettleFrames);
        Assert.Equal(2 * (times.CountInFrames + times.BodyFrames * 2 + times.TailFrames).Seconds(48000), times.AllSeconds, 1e-9);
    }

    [Fact]
    public void Mending_everything_in_Fog_Signal_by_its_fixes_leaves_nothing()
    {
        var (split, song) = Sessions.Fog;
        for (var steps = 0; AllChecks.Look(Sessions.View(split, song)).Where(f => f.ToMend).ToList() is { Count: > 0 } findings; steps++)
        {
            Assert.True(steps < 10, "the fixes go round in circles");
            split = Sessions.After(split, findings[0].Fix!);
        }
    }

    [Fact]
    public void The_hard_pan_trick_is_no_merge()
    {
        var port = 6;
        var split = Sessions.After(
            Kit.Split,
            new AssignPort(OfKit("tom2"), port),
            new SetPan(OfKit("tom2"), new Pan(1)),
            new SetTrackInput(new TrackId(KitTrack("Mid tom")), new InputRef(new BankId("b-u1"), 2 * port)));
        Assert.Empty(AllChecks.Look(Sessions.View(split, Kit.Song)));
    }

    [Fact]
    public void Effects_that_exist_only_in_a_silenced_mix_are_not_told_as_lost()
    {
        var mix = new Track(new TrackId("t90"), "Mix", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 1), Armed = false, Monitor = MonitorMode.Never };
        Assert.Empty(AllChecks.Look(Sessions.View(Sessions.After(Drums.Split, new AddTrack(mix)), Drums.Song)));
    }
}

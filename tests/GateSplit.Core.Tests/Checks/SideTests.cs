using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Checks;

/// <summary>What reaches a track is judged side by side, microphone by microphone, and as it adds up.</summary>
public sealed class SideTests
{
    private static readonly UnitId U1 = new("u1");
    private static readonly BankId Usb = new("b-u1");

    [Fact]
    public void Two_mono_tracks_on_the_two_sides_of_a_pair_hold_it_once_and_whole()
    {
        var overheads = Sessions.TrackOf(Kit, "Overheads");
        var pair = Sessions.After(
            Kit,
            new SetTrackWidth(overheads.Id, Width.Mono),
            new AddTrack(new Track(new TrackId("t90"), "Overheads right", Width.Mono) { Input = overheads.Input! with { Channel = overheads.Input.Channel + 1 }, MeantFor = overheads.MeantFor }));
        Assert.DoesNotContain(Told(pair), f => f.ToMend);

        // A mono element in the centre of its pair leaves by both sides; one track on each is no double and loses nothing.
        var hat = Sessions.TrackOf(Kit, "Hat");
        var centred = Sessions.After(
            Kit,
            new SetPan(Of("hat"), Pan.Centre),
            new AddTrack(new Track(new TrackId("t90"), "Hat right", Width.Mono) { Input = hat.Input! with { Channel = hat.Input.Channel + 1 }, MeantFor = hat.MeantFor }));
        Assert.DoesNotContain(Told(centred), f => f.ToMend);

        // Two that take the same side hold it twice.
        Assert.Contains(Told(Sessions.After(pair, new SetTrackInput(new TrackId("t90"), overheads.Input))), f => f.Check == "Doubled");
    }

    [Fact]
    public void A_side_that_another_element_fills_is_not_silent()
    {
        var apart = Sessions.After(Kit, new AssignPort(Of("room"), PortOf("overheads")), new SetPan(Of("overheads"), Pan.HardLeft), new SetPan(Of("room"), Pan.HardRight));
        Assert.DoesNotContain(Told(apart), f => f.Check == "SilentSide");
        Assert.Contains(Told(Sessions.After(apart, new SetMuted(Of("room"), true))), f => f.Check == "SilentSide");
    }

    [Fact]
    public void Microphones_at_one_drum_add_up_and_two_drums_do_not()
    {
        var track = Sessions.TrackOf(Kit, "Snare top");
        var together = Sessions.After(Kit, new AssignPort(Of("snare-bottom"), PortOf("snare-top")), new SetPan(Of("snare-bottom"), Pan.HardLeft));
        var view = View(together);
        double Alone(string id) => ExpectedPeak.On(view, Of(id), track.Id)!.Value.Ratio;
        var sum = ExpectedPeak.On(view, track)!;
        Assert.Equal(Alone("snare-top") + Alone("snare-bottom"), sum.Peak.Ratio, 1e-9);
        Assert.Equal([Of("snare-top"), Of("snare-bottom")], sum.Of);

        var toms = View(Sessions.After(Kit, new AssignPort(Of("tom1"), PortOf("snare-top")), new SetPan(Of("tom1"), Pan.HardLeft)));
        Assert.Equal(Math.Max(ExpectedPeak.On(toms, Of("snare-top"), track.Id)!.Value.Ratio, ExpectedPeak.On(toms, Of("tom1"), track.Id)!.Value.Ratio), ExpectedPeak.On(toms, track)!.Peak.Ratio, 1e-9);

        // Neither clips by itself, and both do.
        var loud = Sessions.After(together, new ShapeVoice(U1, new UnitVoice(new VoiceId("snare")) { LevelDb = new Decibels(-1 - ExpectedPeak.On(view, Of("snare-top"), track.Id)!.Value.Value) }));
        var finding = Told(loud).Single(f => f.Check == "Level" && f.Place == Place.Of(track));
        Assert.StartsWith("Snare top and Snare bottom together are expected to reach +", finding.Sentence, StringComparison.Ordinal);
        Assert.DoesNotContain(Told(Sessions.After(loud, finding.Fix!)), f => f.Key == finding.Key);
    }

    [Fact]
    public void A_level_that_is_ridden_up_counts_as_high_as_it_goes()
    {
        var track = Sessions.TrackOf(Drums, "Kick");
        var still = ExpectedPeak.On(SplitView.Of(Drums, Sessions.Drums.Song), track)!.Peak;
        var ridden = Sessions.After(Drums, new SetRide(new Ride(Of("kick"), RideControl.Level, [new RidePoint(1, -20), new RidePoint(1.5, 6), new RidePoint(2, 0)])));
        Assert.Equal(still.Value + 6, ExpectedPeak.On(SplitView.Of(ridden, Sessions.Drums.Song), track)!.Peak.Value, 1e-9);
        Assert.Contains(AllChecks.Look(SplitView.Of(ridden, Sessions.Drums.Song)), f => f.Check == "Level" && f.Place == Place.Of(track));
    }

    [Fact]
    public void A_microphone_that_hears_its_neighbours_is_not_empty()
    {
        var snareAlone = Playing(38);
        var track = Sessions.TrackOf(Kit, "Kick in");
        bool IsEmpty(params Edit[] edits) => AllChecks.Look(SplitView.Of(Sessions.After(Kit, edits), snareAlone)).Any(f => f.Check == "EmptyTrack" && f.Place == Place.Of(track));
        Assert.False(IsEmpty());
        Assert.True(IsEmpty(new SetBleed(Of("kick-in"), new Decibels(-120))));
        Assert.True(IsEmpty(new SetMuted(Of("kick-in"), true)));
    }

    [Fact]
    public void A_mix_that_is_recorded_beside_the_lines_doubles_nothing_until_it_is_heard()
    {
        var fix = AllChecks.Look(SplitView.Of(Drums, Sessions.Drums.Song)).Single(f => f.Check == "MixOnly").Fix!;
        var with = Sessions.After(Drums, fix);
        var mix = with.Tracks[0];
        Assert.Equal(("Mudlark Nine mix", true, MonitorMode.Never), (mix.Name, mix.Armed, mix.Monitor));
        Assert.Empty(AllChecks.Look(SplitView.Of(with, Sessions.Drums.Song)));
        Assert.Contains(AllChecks.Look(SplitView.Of(Sessions.After(with, new SetMonitor(mix.Id, MonitorMode.WhileArmed)), Sessions.Drums.Song)), f => f.Check == "Doubled");
        Assert.Contains(AllChecks.Look(SplitView.Of(Sessions.After(with, new SetMeantFor(mix.Id, [])), Sessions.Drums.Song)), f => f.Check == "Doubled");
    }

    [Fact]
    public void Two_lines_that_are_off_by_the_same_step_are_told_together_and_two_that_are_not_each_by_itself()
    {
        Edit To(string track, int channel) => new SetTrackInput(Sessions.TrackOf(Drums, track).Id, new InputRef(Usb, channel));
        var last = AllChecks.Look(SplitView.Of(Sessions.After(Drums, To("High tom", 11), To("Cymbal", 12)), Sessions.Drums.Song)).Where(f => f.Check == "MeantElsewhere").ToList();
        Assert.StartsWith("From High tom on, 2 lines of Mudlark Nine sit 1 input too high: High tom listens to USB 11 but arrives on USB 10.", Assert.Single(last).Sentence, StringComparison.Ordinal);
        Assert.Equal(2, last[0].Also.Length);
        var apart = AllChecks.Look(SplitView.Of(Sessions.After(Drums, To("High tom", 12), To("Kick", 11)), Sessions.Drums.Song)).Where(f => f.Check == "MeantElsewhere");
        Assert.Equal(["High tom", "Kick"], apart.Select(f => f.Sentence.Split(" listens")[0]).Order(StringComparer.Ordinal));
    }

    private static Split Kit => Sessions.Kit.Split;

    private static Split Drums => Sessions.Drums.Split;

    private static ElementRef Of(string id) => new(U1, new ElementId(id));

    private static int PortOf(string id) => Kit.Units[0].Element(new ElementId(id)).Port!.Value;

    private static SplitView View(Split split) => SplitView.Of(split, Sessions.Kit.Song);

    private static IReadOnlyList<Finding> Told(Split split) => AllChecks.Look(View(split));

    private static Song Playing(int key)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hold(10, key, 100, 0, 0.5);
        return Song.Of(writer.ToFile("Song", 1));
    }
}

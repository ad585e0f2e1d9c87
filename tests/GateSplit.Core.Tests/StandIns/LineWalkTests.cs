using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>What the walk measures is what the split says, and what is wrong in the room shows.</summary>
public sealed class LineWalkTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public static TheoryData<string> Charts => [.. Shelf.Charts.Select(c => c.Id.Value)];

    public void Dispose() => _folder.Dispose();

    [Theory]
    [MemberData(nameof(Charts))]
    public void Every_element_of_a_chart_alone_lands_where_the_split_says_within_a_tenth_of_a_decibel(string id)
    {
        var view = Laid(Shelf.Find(new ChartId(id))!);
        var lines = new LineWalk(view).All();
        Assert.Equal(
            view.SoundingElements.Where(e => e.Chart.Kind != ElementKind.NoteOnly).Select(e => e.Ref), lines.Select(l => l.Element).Distinct());
        foreach (var line in lines)
        {
            Assert.True(line.Source.Value > -70, $"{line.Element} gives no sound");
            Assert.All(line.Tracks, t =>
            {
                Assert.Equal(t.Meant, t.Arrived);
                Assert.False(t.ThroughMaster);
                Assert.Equal(t.Predicted.Value, t.Measured.Value, 0.1);
            });
        }

        // Every track that is meant to carry something got it.
        var arrived = lines.SelectMany(l => l.Tracks).Where(t => t.Arrived).Select(t => t.TrackId).ToHashSet();
        Assert.All(view.ArmedTracks, t => Assert.Contains(t.Id, arrived));
    }

    [Theory]
    [MemberData(nameof(Charts))]
    public void An_element_printed_alone_holds_what_the_walk_measured(string id)
    {
        // The walk against the recorder: the same notes, every other element muted, the file measured by sox's formula.
        var view = Laid(Shelf.Find(new ChartId(id))!);
        var element = view.SoundingElements.First(e => e.Chart.Kind is not (ElementKind.Return or ElementKind.NoteOnly)
            && e.Chart.Hears.Where(h => !h.Bleed).Select(h => h.VoiceId).Distinct().Count() == 1 && view.Signal.Reaching(e.Ref).Any());
        var walked = new LineWalk(view).One(element.Ref).First();
        var voice = element.Unit.Chart.Voices.First(v => v.Id == element.Chart.Hears.First(h => !h.Bleed).VoiceId);
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hold(voice.Channel, voice.Keys.IsEmpty ? 48 : voice.Keys[0], 127, 0, 1.2);
        var song = Song.Of(writer.ToFile("One", 1));
        var split = view.Split with { Pass = view.Split.Pass with { LengthBars = 1, TailSeconds = 0, SampleRate = 48000 } };
        foreach (var other in view.Elements.Where(e => e.Ref != element.Ref))
        {
            split = Sessions.After(split, new SetMuted(other.Ref, true));
        }

        var printed = new StandInRecorder(Sessions.View(split, song), song).Print(t => _folder[$"{id}-{t.Id}.wav"], DateTime.UnixEpoch);
        foreach (var track in printed)
        {
            var sum = track.Measure.Channels.Sum(c => Math.Pow(c.Rms.Ratio, 2));
            var there = walked.Tracks.FirstOrDefault(t => t.TrackId == track.Track.Id);
            if (there is null)
            {
                Assert.True(sum < 1e-9, $"{track.Track.Name} holds something of {element.Chart.Name}");
            }
            else
            {
                Assert.Equal(there.Measured.Value, 10 * Math.Log10(sum), 0.01); // both are two seconds at 120
            }
        }
    }

    [Fact]
    public void Two_crossed_cables_show_as_two_elements_in_each_others_place()
    {
        var view = Laid(MudlarkNine.Chart);
        var input = view.Split.Tracks.Single(t => t.Name == "Kick").Input!;
        var crossed = Sessions.After(view.Split, new SetSimulatedInterface(new SimulatedInterface { Crossed = [new(input, input with { Channel = input.Channel + 1 })] }));
        var lines = new LineWalk(new SplitView(crossed, view.Sounding)).All();
        Assert.Equal(["kick", "snare"], lines.Where(l => !l.Agrees).Select(l => l.Element.ElementId.Value));
        Assert.All(lines.Where(l => !l.Agrees), l =>
        {
            Assert.Equal([l.Element.ElementId.Value == "kick" ? "Snare" : "Kick"], l.Tracks.Where(t => t.Arrived).Select(t => crossed.Track(t.TrackId)!.Name));
            Assert.Equal([l.Element.ElementId.Value == "kick" ? "Kick" : "Snare"], l.Tracks.Where(t => t.Meant).Select(t => crossed.Track(t.TrackId)!.Name));
        });
    }

    [Fact]
    public void Each_difference_is_told_in_a_sentence()
    {
        var view = Laid(MudlarkNine.Chart);
        var input = view.Split.Tracks.Single(t => t.Name == "Kick").Input!;
        string? Told(string element, params Edit[] edits)
        {
            var split = Sessions.After(view.Split, edits);
            var lines = new LineWalk(new SplitView(split, view.Sounding)).All();
            return WalkVerdict.Of(split, lines.Single(l => l.Element.ElementId.Value == element), lines);
        }

        SetSimulatedInterface Cross(InputRef a, InputRef b) => new(new SimulatedInterface { Crossed = [new(a, b)] });
        var bus = new InputRef(new BankId("buses"), 1);
        Assert.Null(Told("kick"));
        Assert.Equal(
            "Kick and Snare are in each other's place: Kick arrives on Snare. Two cables or two inputs are swapped.",
            Told("kick", Cross(input, input with { Channel = input.Channel + 1 })));
        Assert.Equal(
            "Kick does not arrive on Kick: it leaves Mudlark Nine by ports 1 and 2, and nobody takes it there.", Told("kick", Cross(input, bus)));
        Assert.Equal("Kick does not arrive on Kick: it leaves Mudlark Nine by the main mix only.", Told("kick", new MakeSetting(new UnitId("u1"), 0, false)));
        Assert.Equal("Kick does not arrive on Kick: Mudlark Nine does not play it.", Told("kick", new MakeSetting(new UnitId("u1"), 1, false)));
        Assert.Equal("Kick arrives on Spare instead of Kick.", Told("kick", new AddTrack(new Track(new TrackId("t90"), "Spare", Width.Mono) { Input = input with { Channel = 12 } }), Cross(input, input with { Channel = 12 })));
    }

    [Fact]
    public void One_side_of_two_pairs_that_is_crossed_is_told_as_that()
    {
        var view = Laid(BrindleSix.Chart);
        var drums = view.Split.Tracks.Single(t => t.Name == "Drums").Input!;
        var split = Sessions.After(view.Split, new SetSimulatedInterface(new SimulatedInterface { Crossed = [new(drums, drums with { Channel = drums.Channel + 2 })] }));
        var lines = new LineWalk(new SplitView(split, view.Sounding)).All();
        Assert.Equal(
            "Drums and Percussion each arrive on the other's track as well: one side of each is in the other's place.",
            WalkVerdict.Of(split, lines.Single(l => l.Element.ElementId.Value == "drums"), lines));
    }

    [Fact]
    public void Trimming_brings_every_peak_to_the_target_and_unity_back_to_the_start()
    {
        var view = Laid(MudlarkNine.Chart);
        IEnumerable<(ElementRef, Decibels)> Peaks(SplitView v) => new LineWalk(v).All().SelectMany(l => l.Tracks.Where(t => t.Arrived).Select(t => (l.Element, t.Peak)));
        var hot = Peaks(view).Where(p => p.Item2.Value > -12).Select(p => p.Item1.ElementId).ToHashSet();
        Assert.NotEmpty(hot);
        var trimmed = new SplitView(Sessions.After(view.Split, LevelPlan.Trim(view, Peaks(view))!), view.Sounding);
        Assert.All(Peaks(trimmed), p => Assert.True(hot.Contains(p.Item1.ElementId) ? Math.Abs(p.Item2.Value + 12) < 0.1 : p.Item2.Value <= -12));
        Assert.Null(LevelPlan.Trim(trimmed, Peaks(trimmed)));
        var unity = Sessions.After(trimmed.Split, LevelPlan.ToUnity(trimmed)!);
        Assert.Equal(view.Split.Units[0].Elements, unity.Units[0].Elements);
        Assert.Null(LevelPlan.ToUnity(view));
    }

    [Fact]
    public void A_setting_that_is_not_made_shows_as_it_would_in_the_room()
    {
        var view = Laid(HeronTen.Chart);
        var with = new SplitView(Sessions.After(view.Split, new AddTrack(new Track(new TrackId("t90"), "Mix", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 1), Armed = false })), view.Sounding);
        var pad = with.SoundingElements.First(e => e.Chart.Kind == ElementKind.Voice).Ref;
        WalkedLine Pad(int notMade) => new LineWalk(new SplitView(Sessions.After(with.Split, new SetInMain(pad, false), new MakeSetting(new UnitId("u1"), notMade, false)), view.Sounding))
            .One(pad).First();

        Assert.DoesNotContain(Pad(0).Tracks, t => t.Arrived); // only the main pair arrives, and the pad is not in it
        var both = Pad(1);
        Assert.Equal(2, both.Tracks.Count(t => t.Arrived)); // in the main as well
        Assert.Single(both.Tracks, t => !t.Agrees);
        Assert.True(both.Tracks.Single(t => t.TrackId.Value == "t90").ThroughMaster);
        Assert.Empty(Pad(2).Tracks.Where(t => t.Arrived)); // it never starts
    }

    [Fact]
    public void With_the_main_muted_only_what_is_separate_is_left()
    {
        var view = Laid(MudlarkNine.Chart);
        var split = Sessions.After(view.Split, new AssignPort(new ElementRef(new UnitId("u1"), new ElementId("snare")), null), new AddTrack(new Track(new TrackId("t90"), "Mix", Width.Stereo) { Input = new InputRef(new BankId("b-u1"), 1) }));
        var muted = new LineWalk(new SplitView(split, view.Sounding)) { MainMuted = true };
        Assert.DoesNotContain(muted.One(new ElementRef(new UnitId("u1"), new ElementId("snare"))).First().Tracks, t => t.Arrived);
        Assert.Contains(muted.One(new ElementRef(new UnitId("u1"), new ElementId("kick"))).First().Tracks, t => t.Arrived);
    }

    /// <summary>A source laid as the program proposes, and started again where it must be.</summary>
    private static SplitView Laid(Chart chart)
    {
        var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
        var after = Layer.Propose(Sessions.View(StartingSplit.Of([chart], (int)song.Bars, 48000), song), new LayWish(HardPan: false) { Unity = true }).After;
        return Sessions.View(after.Unit(new UnitId("u1"))!.NeedsRestart ? Sessions.After(after, new MarkRestarted(new UnitId("u1"))) : after, song);
    }
}

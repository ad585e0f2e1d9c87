using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Templates;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;
using NJsonSchema;

namespace GateSplit.Core.Tests.Templates;

public sealed class TemplateTests
{
    private static readonly DemoSession Fog = DemoSessions.All[1];
    private static readonly Song Song = Song.Of(Fog.Song);
    private static readonly UnitId Drums = Fog.Split.Units[0].Id;
    private static readonly UnitId Keys = Fog.Split.Units[1].Id;

    [Fact]
    public void A_whole_session_kept_and_begun_again_prints_the_same_bytes()
    {
        var template = TemplateMaker.Whole("Fog", Fog.Split, Fog.Song, withNotes: true).Value!;
        var read = TemplateFile.Read(TemplateFile.Write(template)).Value!;
        Assert.Equal(Printed(Fog.Split, Song), Printed(read.Split, Song.Of(MidiReader.Read(read.Notes).Value!)));
        Assert.True(read.HasNotes);
        Assert.Equal("a whole session: Mudlark Nine and Wicker Keys, 12 tracks", read.Gist);
    }

    [Fact]
    public void A_source_with_its_tracks_deleted_and_added_again_prints_the_same_bytes()
    {
        var view = SplitView.Of(Fog.Split, Song);
        var template = Kept(TemplateMaker.Source("Drums", view, Drums, Fog.Song, withNotes: false));
        Assert.Equal(["Drum mix", "Kick", "Snare", "Closed hat", "Open hat", "Low tom", "High tom", "Cymbal"], template.Split.Tracks.Select(t => t.Name));
        Assert.False(template.HasNotes);
        Assert.Equal(Song.Metres.First, Song.Of(MidiReader.Read(template.Notes).Value!).Metres.First);

        // Everything of it is deleted: the source, its row, and by hand the tracks that nobody said what they are for.
        var without = Sessions.After(Fog.Split, [.. template.Split.Tracks.Select(t => (Edit)new RemoveTrack(t.Id)), new RemoveUnit(Drums)]);
        Assert.Equal(4, without.Tracks.Length);
        var fit = TemplateFit.Of(template, SplitView.Of(without, Song), Song, new TemplateWish(["u1"]));
        Assert.All(fit.Proposed, r => Assert.Equal(TemplateFate.Made, r.Fate));
        Assert.Equal(Printed(Fog.Split, Song), Printed(Sessions.After(without, fit.Edit), Song));
        Assert.Equal("Add the template Drums", fit.Edit.Name(without));
        Assert.Equal("The session has changed since the template was looked at. Look at what it would do now.", fit.Edit.Apply(Sessions.After(without, new RenameTrack(without.Tracks[0].Id, "Other"))).Trouble);
    }

    [Fact]
    public void An_output_layout_put_back_on_its_source_prints_the_same_bytes()
    {
        var template = Kept(TemplateMaker.Outputs("Outputs", Fog.Split, Keys, Fog.Song));
        Assert.Empty(template.Split.Tracks);
        var bare = Fog.Split.With(Unit.FromChart(Keys, Fog.Split.Unit(Keys)!.Chart));
        Assert.NotEqual(Printed(Fog.Split, Song), Printed(bare, Song));
        var fit = TemplateFit.Of(template, SplitView.Of(bare, Song), Song, TemplateWish.Plain);
        Assert.Equal(["Wicker Keys is here: its mode, outputs, faders and other settings become those of the template."], fit.Proposed.Select(r => r.Sentence));
        Assert.Equal(Printed(Fog.Split, Song), Printed(Sessions.After(bare, fit.Edit), Song));

        // What a person has set stays, if they say so.
        var left = TemplateFit.Of(template, SplitView.Of(bare, Song), Song, TemplateWish.Plain with { LeaveSettings = true });
        Assert.True(SplitJson.Same(bare, left.After));
        Assert.Equal(["Wicker Keys is here, and stays set as it is."], left.Proposed.Select(r => r.Sentence));
    }

    [Fact]
    public void A_source_that_is_missing_is_told_and_nothing_is_put_on_another()
    {
        var template = Kept(TemplateMaker.Source("Drums", SplitView.Of(Fog.Split, Song), Drums, Fog.Song, withNotes: true));
        var keys = Sessions.After(Fog.Split, [.. Fog.Split.Tracks.Select(t => (Edit)new RemoveTrack(t.Id)), new RemoveUnit(Drums)]);
        var fit = TemplateFit.Of(template, SplitView.Of(keys, Song), Song, TemplateWish.Plain);
        Assert.Equal(TemplateFate.Missing, fit.Proposed[0].Fate);
        Assert.Equal(("Mudlark Nine is not in this session: what is meant for it stays without an input.", "u1"), (fit.Proposed[0].Sentence, fit.Proposed[0].Id));
        Assert.Equal(8, fit.After.Tracks.Length);
        Assert.All(fit.After.Tracks, t => Assert.Null(t.Input));
        Assert.All(fit.After.Tracks, t => Assert.Empty(t.MeantFor));
        Assert.Equal(SplitJson.Write(keys), SplitJson.Write(fit.After with { Tracks = [] }));
        Assert.Null(SplitRules.FirstMisfit(fit.After));
    }

    [Fact]
    public void Names_and_inputs_that_are_taken_are_told_with_what_is_done_instead()
    {
        var template = Kept(TemplateMaker.Source("Drums", SplitView.Of(Fog.Split, Song), Drums, Fog.Song, withNotes: true));
        var fit = TemplateFit.Of(template, SplitView.Of(Fog.Split, Song), Song, TemplateWish.Plain);
        Assert.Equal((TemplateFate.Clash, "Track Kick 2 (the name Kick is taken) is made without an input, since Mudlark USB 4 is heard by Kick already."), fit.Proposed.Where(r => r.What == "track Kick 2").Select(r => (r.Fate, r.Sentence)).Single());
        Assert.Equal(9, fit.Proposed.Length); // the source, and one row for each track
        Assert.Contains("Mudlark Nine is here, set as in the template.", fit.Proposed.Select(r => r.Sentence));
        Assert.Equal(20, fit.After.Tracks.Length);
        Assert.Equal(20, fit.After.Tracks.Select(t => t.Id).Distinct().Count());
        Assert.Equal(20, fit.After.Tracks.Select(t => t.Name).Distinct(StringComparer.OrdinalIgnoreCase).Count());
        Assert.Equal(SplitJson.Write(Fog.Split), SplitJson.Write(fit.After with { Tracks = [.. fit.After.Tracks.Take(12)] }));

        // Who wants both to hear it says so; no cable is there that could go elsewhere.
        TemplateFit Taken(TakenInputs taken) => TemplateFit.Of(template, SplitView.Of(Fog.Split, Song), Song, TemplateWish.Plain with { Taken = taken });
        Assert.Equal(Fog.Split.Tracks.Where(t => t.Input!.BankId == new BankId("b-u1")).Select(t => t.Input), Taken(TakenInputs.Share).After.Tracks.Skip(12).Select(t => t.Input));
        Assert.Contains("Track Kick 2 (the name Kick is taken) is made, on Mudlark USB 4, which Kick hears too.", Taken(TakenInputs.Share).Proposed.Select(r => r.Sentence));
        Assert.True(SplitJson.Same(fit.After, Taken(TakenInputs.NextFree).After));

        // In another pass the same input is free.
        var second = template with { Split = template.Split with { Tracks = [.. template.Split.Tracks.Select(t => t with { Pass = 2 })] } };
        Assert.DoesNotContain(TemplateFit.Of(second, SplitView.Of(Fog.Split, Song), Song, TemplateWish.Plain).Proposed, r => r.Sentence.Contains("is heard by", StringComparison.Ordinal));
    }

    [Fact]
    public void Cables_into_taken_sockets_go_into_the_next_free_ones_and_their_tracks_with_them()
    {
        // Two boxes on twelve sockets: a stereo pair and a mono cable of one are kept; the other has 1, 2 and 5 meanwhile.
        var rig = Sessions.After(StartingSplit.Of([SiskinMono.Chart, MudlarkNine.Chart], 4, 48000), new AddBank(BankKind.Analog, "Socket", 12));
        var sockets = rig.Banks.Single(b => b.Label == "Socket").Id;
        rig = Sessions.After(rig, new SetBank(rig.Bank(sockets)! with { Widths = InputWidths.Any }));
        InputRef At(int channel) => new(sockets, channel);
        var kept = Sessions.After(
            rig,
            new PlugCables(new UnitId("u2"), 1, 3, At(1)),
            new AddTrack(new Track(new TrackId("t1"), "Mix", Width.Stereo) { Input = At(1) }),
            new AddTrack(new Track(new TrackId("t2"), "Kick", Width.Mono) { Input = At(3) }));
        var template = Kept(TemplateMaker.Whole("Sockets", kept, Fog.Song, withNotes: true));
        var here = Sessions.After(
            rig,
            new PlugCables(new UnitId("u1"), 1, 1, At(1)),
            new SwitchInputs(sockets, 4, 4, On: false),
            new AddTrack(new Track(new TrackId("t1"), "Bass", Width.Mono) { Input = At(5) }));

        TemplateFit Fit(TakenInputs taken) => TemplateFit.Of(template, SplitView.Of(here, Song), Song, TemplateWish.Plain with { Taken = taken });
        var free = Fit(TakenInputs.NextFree);
        Assert.Equal(
            [("u1", 1, 1), ("u2", 1, 6), ("u2", 2, 7), ("u2", 3, 3)],
            free.After.Cables.Select(c => (c.UnitId.Value, c.Channel, c.Input.Channel)).OrderBy(c => c));
        Assert.Equal([At(5), At(6), At(3)], free.After.Tracks.Select(t => t.Input));
        Assert.Contains(free.Proposed, r => r is { Fate: TemplateFate.Clash, Sentence: "Socket 1-2 is taken, so what track Mix hears is plugged into Socket 6-7." });
        Assert.Null(SplitRules.FirstMisfit(free.After));

        // A stereo track takes both of its inputs.
        var wide = Sessions.After(here, new SetTrackWidth(here.Tracks[0].Id, Width.Stereo));
        Assert.Equal(At(7), TemplateFit.Of(template, SplitView.Of(wide, Song), Song, TemplateWish.Plain with { Taken = TakenInputs.NextFree }).After.Tracks[1].Input);

        // Left as it is, the taken socket keeps its cable, and what came there comes nowhere.
        var left = Fit(TakenInputs.StayWithout);
        Assert.Equal([("u1", 1, 1), ("u2", 2, 2), ("u2", 3, 3)], left.After.Cables.Select(c => (c.UnitId.Value, c.Channel, c.Input.Channel)).OrderBy(c => c));
        Assert.Contains(left.Proposed, r => r.Sentence == "Socket 1 is taken by a cable of Siskin Mono, so that of Mudlark Nine is not plugged.");

        // Pairs begin where the row lets them; without room nothing is moved.
        here = Sessions.After(here, new SetBank(here.Bank(sockets)! with { Widths = InputWidths.PairsFromOdd }));
        Assert.Equal(At(7), Fit(TakenInputs.NextFree).After.Tracks[1].Input);
        here = Sessions.After(here, new SwitchInputs(sockets, 8, 12, On: false));
        Assert.Equal([("u1", 1, 1), ("u2", 2, 2), ("u2", 3, 3)], Fit(TakenInputs.NextFree).After.Cables.Select(c => (c.UnitId.Value, c.Channel, c.Input.Channel)).OrderBy(c => c));
    }

    [Theory]
    [InlineData(1)]
    [InlineData(7)]
    [InlineData(64)]
    public void An_empty_clip_is_as_long_as_was_asked(int bars)
    {
        var whole = Kept(TemplateMaker.Whole("Fog", Fog.Split, Fog.Song, withNotes: true));
        var clip = Kept(TemplateMaker.WithClip(whole, bars));
        var file = MidiReader.Read(clip.Notes).Value!;
        Assert.False(clip.HasNotes);
        Assert.Equal(bars, clip.Split.Pass.LengthBars);
        Assert.All(file.Tracks, t => Assert.Equal(Song.Metres.BarStart(bars), t[^1].Tick));
        Assert.Equal((Song.Metres.First, Song.Tempos.StartTempo), (Song.Of(file).Metres.First, Song.Of(file).Tempos.StartTempo));
        Assert.True(SplitJson.Same(Fog.Split with { Pass = Fog.Split.Pass with { LengthBars = bars } }, clip.Split));
        Assert.True(SplitJson.Same(clip.Split, TemplateFit.Begin(clip, Song.Of(file), leaveOutSilent: false)));
    }

    [Fact]
    public void A_clip_has_a_length_and_what_was_performed_behind_it_is_gone()
    {
        var kick = new ElementRef(Drums, new ElementId("kick"));
        var stepped = Fog.Split with
        {
            Pass = Fog.Split.Pass with { StartBar = 3 },
            Steps = [new PerformedStep(kick, StepKind.Roll, 1, 3, 4), new PerformedStep(kick, StepKind.Roll, 2, 3.5, 4)],
        };
        var whole = Kept(TemplateMaker.Whole("Fog", stepped, Fog.Song, withNotes: false));
        var clip = Kept(TemplateMaker.WithClip(whole, 2));
        Assert.Equal(2, clip.Split.Pass.StartBar);
        Assert.Equal([3], clip.Split.Steps.Select(s => s.ToBar)); // one that ends where the clip ends is in it
        Assert.Equal("A clip is 1 to 2000 bars long.", TemplateMaker.WithClip(whole, 0).Trouble);
        Assert.Equal("A clip is 1 to 2000 bars long.", TemplateMaker.WithClip(whole, 2001).Trouble);
        Assert.True(TemplateMaker.WithClip(whole, 2000).Ok);
    }

    [Fact]
    public void What_does_not_sound_in_the_new_song_is_left_out_and_numbers_are_closed_up_or_kept()
    {
        var chart = FennelSampler.Chart;
        var (laid, song) = Sessions.Laid(chart);
        var split = Sessions.After(laid, new MarkRestarted(laid.Units[0].Id));
        var template = Kept(TemplateMaker.Source("Sampler", SplitView.Of(split, song), split.Units[0].Id, MidiReader.Read(MidiWriter.Write(song.File)).Value!, withNotes: true));
        Assert.True(template.Split.Tracks.Length > 4);

        // A song in which every other voice is silent.
        var voices = chart.Voices.Where((_, i) => i % 2 == 0).ToHashSet();
        var sparse = Song.Of(song.File with { Tracks = [.. song.File.Tracks.Select(t => t.RemoveAll(e => (e.IsNoteOn || e.IsNoteOff) && !voices.Any(v => v.Plays(e.Channel, e.Data[0]))))] });
        var empty = StartingSplit.Of([], (int)song.Bars, 48000);
        Assert.NotEmpty(sparse.Notes);
        Assert.NotEmpty(SplitView.Of(split, sparse).Sounding);
        TemplateFit Fit(bool leaveOut, bool closeUp) => TemplateFit.Of(template, SplitView.Of(empty, sparse), sparse, new TemplateWish(["u1"], LeaveOutSilent: leaveOut, CloseUp: closeUp));
        var all = Fit(false, false).After;
        var kept = Fit(true, false);
        var closed = Fit(true, true);
        Assert.Equal(template.Split.Tracks.Length, all.Tracks.Length);
        Assert.InRange(kept.After.Tracks.Length, 1, all.Tracks.Length - 1);
        Assert.Equal(all.Tracks.Length - kept.After.Tracks.Length, kept.Proposed.Count(r => r.Fate == TemplateFate.LeftOut));

        // Kept: each listens where it did. Closed up: the inputs follow each other, and each track still holds what it held.
        Assert.Equal(all.Tracks.Where(t => kept.After.Tracks.Any(k => k.Name == t.Name)).Select(all.InputName), kept.After.Tracks.Select(kept.After.InputName));
        Assert.NotEqual(kept.After.Tracks.Select(kept.After.InputName), closed.After.Tracks.Select(closed.After.InputName));
        var (before, after) = (SplitView.Of(kept.After, sparse), SplitView.Of(closed.After, sparse));
        Assert.Equal(kept.After.Tracks.Select(t => string.Join(' ', before.SoundingIn(t))), closed.After.Tracks.Select(t => string.Join(' ', after.SoundingIn(t))));
        List<int> Ports(Split of, SplitView view) => [.. of.Tracks.Select(t => view.Signal.Into(t.Id).First().Port).Order()];
        int Gaps(List<int> ports) => ports[^1] - ports[0] + 1 - ports.Count;
        Assert.InRange(Gaps(Ports(closed.After, after)), 0, Gaps(Ports(kept.After, before)) - 1);
        Assert.Contains("The outputs of Fennel Sampler are counted anew, without gaps.", closed.Proposed.Select(r => r.Sentence));
    }

    [Fact]
    public void A_template_keeps_no_audio_no_ticks_and_changes_nothing()
    {
        var ticked = Fog.Split with { Ticked = [new TickedLine(new ElementRef(Drums, new ElementId("kick")), "way")] };
        var before = SplitJson.Write(ticked);
        var template = Kept(TemplateMaker.Whole("Fog", ticked, Fog.Song, withNotes: false));
        Assert.Empty(template.Split.Ticked);
        Assert.Equal(before, SplitJson.Write(ticked));
        Assert.Equal("A template needs a name of 1 to 80 letters.", TemplateMaker.Whole("  ", ticked, Fog.Song, withNotes: false).Trouble);
        Assert.False(TemplateMaker.Outputs("x", ticked, new UnitId("u9"), Fog.Song).Ok);
        Assert.False(TemplateMaker.Source("x", SplitView.Of(ticked, Song), new UnitId("u9"), Fog.Song, withNotes: false).Ok);
    }

    [Fact]
    public void Rides_come_along_unless_they_are_not_wanted()
    {
        var demo = DemoSessions.All[4];
        var split = demo.Steps.OfType<DemoEdit>().Aggregate(demo.Split, (s, step) => step.Edit.Apply(s).Value!);
        Assert.Equal(2, Kept(TemplateMaker.Whole("Ridden", split, demo.Song, withNotes: true)).Split.Rides.Length);
        Assert.Empty(Kept(TemplateMaker.Whole("Still", split, demo.Song, withNotes: true, withPerformance: false)).Split.Rides);
    }

    [Theory]
    [InlineData("fog-signal")]
    [InlineData("relief-boat")]
    [InlineData("stairwell")]
    public void One_of_an_older_version_is_brought_up_and_one_of_a_newer_is_refused_with_a_sentence(string name)
    {
        var old = JsonNode.Parse(File.ReadAllText(Fixtures.Files(1, $"{name}.session.json").Single()))!.AsObject();
        var file = new JsonObject
        {
            ["format"] = TemplateFile.FormatName,
            ["version"] = 1,
            ["name"] = "Old",
            ["kind"] = "whole",
            ["notes"] = old["song"]!.DeepClone(),
            ["split"] = old["split"]!.DeepClone(),
        };
        var read = TemplateFile.Read(System.Text.Encoding.UTF8.GetBytes(file.ToJsonString()));
        Assert.True(read.Ok, read.Trouble);
        Assert.NotEmpty(read.Value!.Split.Tracks);
        file["version"] = TemplateFile.Version + 1;
        Assert.StartsWith($"This template has version {TemplateFile.Version + 1} of the format; {TemplateFile.Version} is the newest that is read here.", TemplateFile.Read(System.Text.Encoding.UTF8.GetBytes(file.ToJsonString())).Trouble);
    }

    [Theory]
    [InlineData("format", "\"gate-split-session\"")]
    [InlineData("name", "\"\"")]
    [InlineData("kind", "\"half\"")]
    [InlineData("kind", "\"source\"")]
    [InlineData("notes", "\"AAAA\"")]
    [InlineData("notes", "7")]
    [InlineData("split", "null")]
    [InlineData("split", "{}")]
    [InlineData("version", "0")]
    public void What_is_no_template_is_refused_with_a_sentence(string field, string value)
    {
        var file = JsonNode.Parse(TemplateFile.Write(Kept(TemplateMaker.Whole("Fog", Fog.Split, Fog.Song, withNotes: true))))!.AsObject();
        Assert.True(TemplateFile.Read(System.Text.Encoding.UTF8.GetBytes(file.ToJsonString())).Ok);
        file[field] = JsonNode.Parse(value);
        var read = TemplateFile.Read(System.Text.Encoding.UTF8.GetBytes(file.ToJsonString()));
        Assert.False(read.Ok);
        Assert.EndsWith(".", read.Trouble);
    }

    [Fact]
    public void Rows_of_inputs_are_matched_by_kind_and_name_and_missing_ones_are_brought_when_asked()
    {
        var boat = DemoSessions.All[2];
        var song = Song.Of(boat.Song);
        var template = Kept(TemplateMaker.Whole("Boat", boat.Split, boat.Song, withNotes: true));
        var empty = StartingSplit.Of([], 32, 48000);
        var socket = boat.Split.Banks.Single(b => b.Label == "Socket");
        var plain = TemplateFit.Of(template, SplitView.Of(empty, song), song, new TemplateWish(["u1"]));
        Assert.Contains("There is no row of inputs Socket here: what is plugged or listens there stays without an input.", plain.Proposed.Select(r => r.Sentence));
        Assert.Empty(plain.After.Cables);
        Assert.All(plain.After.Tracks, t => Assert.Null(t.Input));
        var brought = TemplateFit.Of(template, SplitView.Of(empty, song), song, new TemplateWish(["u1", socket.Id.Value]));
        Assert.Equal(boat.Split.Cables.Length, brought.After.Cables.Length);
        Assert.Equal(boat.Split.Tracks.Select(boat.Split.InputName), brought.After.Tracks.Select(brought.After.InputName));
        Assert.Equal(Printed(boat.Split, song), Printed(brought.After with { Pass = boat.Split.Pass, Interface = boat.Split.Interface }, song));

        // A row of another kind that bears the name is not the same row.
        var other = Sessions.After(empty, new AddBank(BankKind.Loopback, "Socket", 8));
        Assert.All(TemplateFit.Of(template, SplitView.Of(other, song), song, new TemplateWish(["u1", socket.Id.Value])).After.Tracks, t => Assert.Null(t.Input));
    }

    [Fact]
    public async Task The_published_schema_is_that_of_the_program_and_refuses_what_does_not_fit()
    {
        var path = SchemaPath();
        Assert.Equal(await File.ReadAllTextAsync(path), TemplateFile.Schema());
        var schema = await JsonSchema.FromJsonAsync(TemplateFile.Schema());
        foreach (var demo in DemoSessions.All)
        {
            var json = System.Text.Encoding.UTF8.GetString(TemplateFile.Write(Kept(TemplateMaker.Whole(demo.Name, demo.Split, demo.Song, withNotes: true))));
            Assert.Empty(schema.Validate(json));
        }

        var file = JsonNode.Parse(TemplateFile.Write(Kept(TemplateMaker.Whole("Fog", Fog.Split, Fog.Song, withNotes: true))))!;
        file["split"]!["tracks"]![0]!["width"] = "wide";
        Assert.NotEmpty(schema.Validate(file.ToJsonString()));
    }

    [Fact]
    public void What_is_in_the_session_stays_as_it_is_whatever_is_left_out_or_closed_up()
    {
        var silent = Song.Of(Fog.Song with { Tracks = [.. Fog.Song.Tracks.Select(t => t.RemoveAll(e => e.IsNoteOn || e.IsNoteOff))] });
        var keys = Kept(TemplateMaker.Source("Keys", SplitView.Of(Fog.Split, Song), Keys, Fog.Song, withNotes: true));
        var drums = Sessions.After(Fog.Split, [.. Fog.Split.Tracks.Skip(8).Select(t => (Edit)new RemoveTrack(t.Id)), new RemoveUnit(Keys)]);
        var fit = TemplateFit.Of(keys, SplitView.Of(drums, silent), silent, new TemplateWish(["u2"], LeaveOutSilent: true, CloseUp: true));
        Assert.Equal(drums.Tracks, fit.After.Tracks); // silent as they are
        Assert.Equal(4, fit.Proposed.Count(r => r.Fate == TemplateFate.LeftOut));
        Assert.Equal(SplitJson.Write(drums with { Units = [], Banks = [] }), SplitJson.Write(fit.After with { Units = [], Banks = [] }));
    }

    [Fact]
    public void A_ride_of_the_session_stays_and_so_does_whom_a_group_of_it_feeds()
    {
        var kick = new ElementRef(Drums, new ElementId("kick"));
        Split Ridden(double value) => Sessions.After(Fog.Split, new SetRide(new Ride(kick, RideControl.Level, [new RidePoint(1, value)])));
        var template = Kept(TemplateMaker.Whole("Ridden", Ridden(-6), Fog.Song, withNotes: true));
        Assert.Equal(-3, Assert.Single(TemplateFit.Of(template, SplitView.Of(Ridden(-3), Song), Song, TemplateWish.Plain).After.Rides).Points[0].Value);
        Assert.Equal(-6, Assert.Single(TemplateFit.Of(template, SplitView.Of(Fog.Split, Song), Song, TemplateWish.Plain).After.Rides).Points[0].Value);

        var apart = Sessions.After(Fog.Split, new AddTrackGroup("Low", true), new AddTrackGroup("All", true));
        var fed = Sessions.After(apart, new SetTrackGroup(apart.TrackGroups[0] with { ParentId = apart.TrackGroups[1].Id }));
        var groups = Kept(TemplateMaker.Whole("Fed", fed, Fog.Song, withNotes: true));
        Assert.All(TemplateFit.Of(groups, SplitView.Of(apart, Song), Song, TemplateWish.Plain).After.TrackGroups, g => Assert.Null(g.ParentId));
        Assert.Equal([new TrackGroupId("g2"), null], TemplateFit.Of(groups, SplitView.Of(Fog.Split, Song), Song, TemplateWish.Plain).After.TrackGroups.Select(g => g.ParentId));
    }

    [Fact]
    public void A_neighbour_does_not_take_an_input_and_a_track_of_two_sources_belongs_to_neither()
    {
        var one = Sessions.After(Fog.Split, [.. Fog.Split.Tracks.Where(t => t.Name != "Low tom").Select(t => (Edit)new RemoveTrack(t.Id))]);
        var rest = Sessions.After(Fog.Split, new RemoveTrack(Sessions.TrackOf(Fog.Split, "Low tom").Id));
        var tom = Kept(TemplateMaker.Source("Tom", SplitView.Of(one, Song), Drums, Fog.Song, withNotes: true));
        Assert.Equal("Mudlark USB 9", TemplateFit.Of(tom, SplitView.Of(rest, Song), Song, TemplateWish.Plain).After is var after ? after.InputName(after.Tracks[^1]) : ""); // between 8 and 10

        var both = Fog.Split.With(Sessions.TrackOf(Fog.Split, "Kick") with { MeantFor = [Meant.ForMix(Drums), Meant.ForMix(Keys)] });
        Assert.DoesNotContain(Kept(TemplateMaker.Source("Drums", SplitView.Of(both, Song), Drums, Fog.Song, withNotes: true)).Split.Tracks, t => t.Name == "Kick");
    }

    private static string SchemaPath([CallerFilePath] string here = "") => Path.Combine(Path.GetDirectoryName(here)!, "../../../docs/schemas/template.schema.json");

    private static Template Kept(Result<Template> made)
    {
        Assert.True(made.Ok, made.Trouble);
        return TemplateFile.Read(TemplateFile.Write(made.Value)).Value!;
    }

    /// <summary>The name of each track and the hash of all bytes that are printed of it.</summary>
    private static SortedDictionary<string, string> Printed(Split split, Song song)
    {
        using var folder = new TempFolder();
        var printed = new SortedDictionary<string, string>(StringComparer.Ordinal);
        for (var pass = 1; pass <= split.Passes; pass++)
        {
            var view = SplitView.Of(split.InPass(pass), song);
            new StandInRecorder(view, song).Print(t => Path.Combine(folder.Path, $"{pass} {t.Name}.wav"), new DateTime(2026, 1, 1, 0, 0, 0, DateTimeKind.Utc));
        }

        foreach (var file in Directory.GetFiles(folder.Path))
        {
            printed[Path.GetFileName(file)] = Convert.ToHexString(SHA256.HashData(File.ReadAllBytes(file)));
        }

        Assert.NotEmpty(printed);
        return printed;
    }
}

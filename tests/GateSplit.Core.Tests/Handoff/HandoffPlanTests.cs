using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Handoff;

/// <summary>What leaves, where it lies, and how it is made.</summary>
public sealed class HandoffPlanTests : IDisposable
{
    private const int Rate = 48000;
    private static readonly DateTime Made = new(2026, 11, 28, 10, 20, 30);
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void Lines_effects_and_a_mix_lie_apart_each_numbered_by_itself()
    {
        var plan = Plan(Material(LampLit.Session), new());
        Assert.Equal(["lines/01 Kick in.wav", "lines/02 Kick out.wav"], plan.Files.Take(2).Select(f => f.Path));
        var hall = Assert.Single(plan.Files, f => f.Kind == HandoffKind.Effects);
        Assert.Equal(("effects/01 Hall return.wav", "Hall return"), (hall.Path, hall.Elements));
        var mix = Assert.Single(plan.Files, f => f.Kind == HandoffKind.Reference);
        Assert.Equal(("reference/01 Mix of all lines.wav", HandoffPlan.MixKey, 2), (mix.Path, mix.Key, mix.Format.Channels));
        Assert.Empty(plan.Told);
    }

    [Fact]
    public void A_track_that_hears_what_others_hold_is_a_reference_whatever_it_is_called_and_alone_it_is_a_line()
    {
        // The drum machine's first pair is its mix.
        var split = FogSignal.Session.Split;
        var mix = split.Tracks[0];
        var material = Material(FogSignal.Session with { Split = split with { Tracks = [mix with { Name = "Only a pad", MeantFor = [] }, .. split.Tracks.Skip(1)] } });
        var plan = Plan(material, new());
        Assert.Equal("reference/01 Only a pad.wav", plan.Files.Single(f => f.Key == $"line:{mix.Id}").Path);
        Assert.DoesNotContain(plan.Files, f => f.Key == HandoffPlan.MixKey); // there is a mix already
        Assert.Contains(plan.Offered, f => f.Key == HandoffPlan.MixKey);

        // One element that another line holds too makes no mix.
        var two = Plan(material with { Lines = [.. material.Lines.Where(l => l.TrackId == mix.Id || l.Name == "Kick")] }, new());
        Assert.Equal("lines/01 Only a pad.wav", two.Files.Single(f => f.Key == $"line:{mix.Id}").Path);
        var alone = Plan(material with { Lines = [.. material.Lines.Where(l => l.TrackId == mix.Id)] }, new());
        Assert.Equal("lines/01 Only a pad.wav", Assert.Single(alone.Files).Path);
    }

    [Fact]
    public void A_line_that_was_sent_out_and_recorded_again_is_a_line_and_no_stem()
    {
        // The second track of Stairwell records what the first one sends through a pedal.
        var plan = Plan(Material(Stairwell.Session), new());
        Assert.Equal(["lines/01 Siskin.wav", "lines/02 Siskin lead.wav"], plan.Offered.Where(f => f.Kind == HandoffKind.Line).Select(f => f.Path));
        Assert.DoesNotContain(plan.Offered, f => f.Kind == HandoffKind.Stem);
    }

    [Fact]
    public void Lines_of_takes_with_other_bars_are_told_only_where_both_leave()
    {
        var material = Material(FogSignal.Session);
        var take = material.Lines[0].Take;
        HandoffMaterial With(double tempo)
        {
            var song = Song.Of(Song.WithTempo(FogSignal.Session.Song, Tempo.FromQuartersPerMinute(tempo)));
            return material with { Lines = material.Lines.SetItem(1, material.Lines[1] with { Take = take with { Number = 3, Song = song } }) };
        }

        const string Told = "Take 2 and take 3 do not have the same bars, since tempo or metre was changed between them: lines of both do not fit together.";
        Assert.Contains(Told, Plan(With(93), new() { Files = ["line:t1", "line:t2"] }).Told);
        Assert.Contains(Told, Plan(With(93), new() { Files = [HandoffPlan.MixKey] }).Told);
        Assert.Empty(Plan(With(93), new() { Files = ["line:t2"] }).Told);
        Assert.Empty(Plan(With(take.Song.Tempos.StartTempo), new() { Files = ["line:t1", "line:t2"] }).Told);
    }

    [Fact]
    public void What_is_ticked_leaves_and_a_stem_beside_its_lines_is_told()
    {
        var material = Grouped();
        Assert.DoesNotContain(Plan(material, new()).Files, f => f.Kind == HandoffKind.Stem);
        var plan = Plan(material, new() { Files = ["line:t1", "stem:g1"] });
        Assert.Equal(["lines/01 Kick.wav", "stems/01 Drums.wav"], plan.Files.Select(f => f.Path));
        Assert.Equal("Drums is the sum of Kick, which leaves as well: who lays both has it twice.", Assert.Single(plan.Told));
        Assert.Empty(Plan(material, new() { Files = ["line:t4", "stem:g1"] }).Told);
        Assert.Empty(Plan(material, new() { Files = [] }).Files);
    }

    [Theory]
    [InlineData(StemLevels.Mixed)]
    [InlineData(StemLevels.Flat)]
    public async Task Stems_and_the_lines_in_none_add_up_to_the_mix(StemLevels levels)
    {
        var material = Grouped();
        var plan = Plan(material, new() { Files = ["stem:g1", "stem:g3", HandoffPlan.MixKey], Format = "float32", Stems = levels });
        foreach (var file in new HandoffMaker(a => _folder[a], _folder.Path).Measured(plan.Files, null, TestContext.Current.CancellationToken))
        {
            await new HandoffMaker(a => _folder[a], _folder.Path).WriteAll([file], new FolderTarget(_folder["out"]), null, TestContext.Current.CancellationToken);
        }

        float[] Side(string path, int side) => Held.Samples(WaveReader.Open(Path.Combine(_folder["out"], path)).Value!, side);
        float[] Line(string id) => Programs.Samples(_folder[$"{id}.wav"]);
        var (drums, hats, mix) = ("stems/01 Drums.wav", "stems/02 Hats.wav", "reference/01 Mix of all lines.wav");
        for (var side = 0; side < 2; side++)
        {
            // By hand: Kick -6 dB in Drums at -2 dB, hard left; Snare in the centre of Close within Drums at -3 dB; the hat in Hats at +1 dB, 30 % right.
            double Gain(double db) => Math.Pow(10, db / 20);
            var pan = Math.PI / 4 * 1.3;
            var (kick, snare, hat) = levels == StemLevels.Flat ? (1, 1, 1)
                : (Gain(-8) * (side == 0 ? 1 : 0), Gain(-5) * Math.Sqrt(0.5), Gain(1) * (side == 0 ? Math.Cos(pan) : Math.Sin(pan)));
            float[] of = Side(drums, side), other = Side(hats, side), all = Side(mix, side);
            float[] a = Line("t1"), b = Line("t2"), c = Line("t4");
            Assert.All([0, 5_000, 23_999], i => Assert.Equal(kick * a[i] + snare * b[i], of[i], 1e-6));
            Assert.All([0, 5_000, 23_999], i => Assert.Equal(hat * c[i], other[i], 1e-6));
            Assert.All(Enumerable.Range(0, all.Length), i => Assert.Equal(of[i] + other[i], all[i], 1e-6));
        }
    }

    [Fact]
    public async Task From_bar_to_bar_all_begin_at_one_place_and_say_where_it_is()
    {
        // 92 quarters a minute to the microsecond: bar 3 of 4/4 begins 8 quarters in, bar 5 sixteen.
        var material = Material(FogSignal.Session, seconds: 12);
        var plan = Plan(material, new() { FromBar = 3, ToBar = 4, Files = ["line:t1", HandoffPlan.MixKey], Format = "float32" });
        var (start, end) = ((long)Math.Round(8 * 60.0 / 92 * Rate), (long)Math.Round(16 * 60.0 / 92 * Rate));
        Assert.All(plan.Files, f => Assert.Equal((start, end - start), (f.Label.Broadcast.TimeReference.Count, f.Frames.Count)));
        Assert.Equal([(0, "bar 3"), ((long)Math.Round(4 * 60.0 / 92 * Rate), "bar 4")], plan.Files[0].Label.Cues.Select(c => (c.At.Count, c.Name)));
        await new HandoffMaker(a => _folder[a], _folder.Path).WriteAll([plan.Files[0]], new FolderTarget(_folder["out"]), null, TestContext.Current.CancellationToken);
        Assert.Equal(Programs.Samples(_folder["t1.wav"])[(int)start..(int)end], Programs.Samples(Path.Combine(_folder["out"], "lines/01 Kick.wav")));
        Assert.Equal($"{start}", Programs.Run("ffprobe", "-v", "error", "-show_entries", "format_tags=time_reference", "-of", "csv=p=0", Path.Combine(_folder["out"], "lines/01 Kick.wav")));

        // At another rate, the same place.
        var slower = Plan(material, new() { FromBar = 3, Files = ["line:t1"], SampleRate = 44100 }).Files[0];
        Assert.Equal(((long)Math.Round(8 * 60.0 / 92 * 44100), (long)(12 * 44100)), (slower.Label.Broadcast.TimeReference.Count, slower.Recipe.Start.Count + slower.Frames.Count));
    }

    [Theory]
    [InlineData(0, null, "Bars are counted from 1.")]
    [InlineData(null, 0, "Bars are counted from 1.")]
    [InlineData(5, 4, "The last bar lies before the first.")]
    [InlineData(60, null, "Kick ends before bar 60. Begin earlier, or leave the bars open.")]
    public void Bars_that_are_not_there_are_told(int? from, int? to, string sentence) =>
        Assert.Equal(sentence, HandoffPlan.Of(Material(FogSignal.Session), new() { FromBar = from, ToBar = to }, Made).Trouble);

    [Fact]
    public void More_channels_than_a_format_holds_are_told_before_anything_is_made()
    {
        var material = Material(FogSignal.Session);
        var wide = material.Lines[1] with { Plan = RenderPlan.AsItIs(9, 24_000) };
        HandoffWish flac = new() { Format = "flac-pcm24" };
        Assert.Equal("Kick has 9 channels, and FLAC holds at most 8. Choose another format, or leave it out.", HandoffPlan.Of(material with { Lines = [wide] }, flac, Made).Trouble);
        Assert.True(HandoffPlan.Of(material with { Lines = [wide with { Plan = RenderPlan.AsItIs(8, 24_000) }] }, flac, Made).Ok);
        Assert.True(HandoffPlan.Of(material with { Lines = [wide] }, new(), Made).Ok);
        Assert.True(HandoffPlan.Of(material with { Lines = [wide] }, flac with { Files = [] }, Made).Ok);
    }

    [Fact]
    public async Task A_record_made_in_order_is_what_was_made_side_by_side_and_leaves_nothing_of_what_was_made_ahead()
    {
        var cancel = TestContext.Current.CancellationToken;
        var material = Material(FogSignal.Session, seconds: 1);
        var plan = Plan(material, new() { Format = "flac-pcm24" });
        Assert.True(plan.Files.Length > 10);
        var staging = Directory.CreateDirectory(_folder["staging"]).FullName;
        var maker = new HandoffMaker(a => _folder[a], staging);
        var first = await maker.WriteAll(plan.Files, new FolderTarget(_folder["out"]), null, cancel);
        Assert.Equal(plan.Files, first.Select(f => f.File));
        var record = new HandoffRecord("Fog", Made, new(), first, []);
        await record.WriteTo(maker, new FolderTarget(_folder["again"]), cancel);
        Assert.All(plan.Files, f => Assert.Equal(File.ReadAllBytes(Path.Combine(_folder["out"], f.Path)), File.ReadAllBytes(Path.Combine(_folder["again"], f.Path))));
        Programs.Run("bash", "-c", $"flac -t -s -w '{_folder["again"]}'/*/*.flac");

        // One that comes out otherwise breaks it off, as does whoever no longer listens; what is made ahead goes away.
        var other = record with { Files = record.Files.SetItem(2, record.Files[2] with { Sha256 = "another" }) };
        var trouble = await Assert.ThrowsAsync<IOException>(() => other.WriteTo(maker, new NowhereTarget(), cancel));
        Assert.Equal($"{plan.Files[2].Path} came out other than when it was made first.", trouble.Message);
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => record.WriteTo(maker, new NowhereTarget(), new CancellationToken(true)));
        File.Move(_folder["t5.wav"], _folder["away.wav"]);
        await Assert.ThrowsAsync<IOException>(() => record.WriteTo(maker, new NowhereTarget(), cancel));
        Assert.Empty(Directory.GetFiles(staging));
    }

    [Fact]
    public async Task As_stored_is_byte_for_byte_and_anything_else_is_labelled()
    {
        var material = Material(FogSignal.Session, seconds: 4);
        var stored = Plan(material, new() { Files = ["line:t1"] }).Files[0];
        Assert.True(stored.AsStored);
        var written = Assert.Single(await new HandoffMaker(a => _folder[a], _folder.Path).WriteAll([stored], new FolderTarget(_folder["out"]), null, TestContext.Current.CancellationToken));
        Assert.Equal(File.ReadAllBytes(_folder["t1.wav"]), File.ReadAllBytes(Path.Combine(_folder["out"], stored.Path)));
        Assert.Equal(Programs.Run("sha256sum", Path.Combine(_folder["out"], stored.Path)).Split(' ')[0], written.Sha256);

        var line = material.Lines[0];
        var later = material with { Lines = [line with { Plan = line.Plan with { Start = -10 }, Mended = true }] };
        Assert.Equal((false, true), (Plan(later, new()).Files[0].AsStored, Plan(later, new()).Files[0].Mended));
        Assert.False(Plan(material, new() { Files = ["line:t1"], ToBar = 1 }).Files[0].AsStored);
        Assert.False(Plan(material, new() { Files = ["line:t1"], SampleRate = 96000 }).Files[0].AsStored);
    }

    [Fact]
    public void A_record_is_read_back_as_it_was_written()
    {
        var plan = Plan(Grouped(), new() { Files = ["line:t1", "stem:g1"], Format = "flac-pcm24", FromBar = 1 });
        var record = new HandoffRecord("Fog", Made, new() { Files = ["line:t1"] }, [.. plan.Files.Select(f => new HandoffWritten(f, 5, "ab"))], [new("a.txt", [1, 2, 3])]);
        var again = HandoffRecord.Read(record.ToJson())!;
        Assert.Equal(record.ToJson(), again.ToJson());
        Assert.Equal([1, 2, 3], again.Papers[0].Body);
        Assert.Equal([("t1.wav", "Kick"), ("t1.wav", "Drums"), ("t2.wav", "Drums")], again.Audio);
        Assert.Null(HandoffRecord.Read("{}"));
        Assert.Null(HandoffRecord.Read("no JSON"));
    }

    [Fact]
    public void The_papers_are_those_of_the_takes_and_their_sums_are_right()
    {
        var material = Material(FogSignal.Session);
        var plan = Plan(material, new() { Files = ["line:t1", "line:t2"] });
        ImmutableArray<HandoffWritten> files = [.. plan.Files.Select(f => new HandoffWritten(f, 5, new string('a', 64)))];
        var papers = HandoffPapers.Of(material, files, Made);
        foreach (var paper in papers)
        {
            var path = Path.Combine(_folder["papers"], paper.Path);
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            File.WriteAllBytes(path, paper.Body);
        }

        Assert.Equal(2 + 3, papers.Count(p => p.Path is "tracks.csv" or "track sheet.html" or "how to lay these out.txt" or "manifest.json" or "SHA256SUMS"));
        var sums = System.Text.Encoding.UTF8.GetString(papers.Single(p => p.Path == "SHA256SUMS").Body).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal(files.Length + papers.Length - 1, sums.Length); // all but itself
        File.WriteAllLines(_folder["papers/own"], sums.Where(s => !s.StartsWith("aaaa", StringComparison.Ordinal)));
        Programs.Run("bash", "-c", $"cd '{_folder["papers"]}' && sha256sum -c --strict own");

        // Each element's notes are the strokes of the song that its voice plays: 16 bars with a kick on each of the first beats.
        var csv = Programs.Run("midicsv", _folder["papers/notes/elements/Kick.mid"]);
        Assert.Equal(Song.Of(FogSignal.Session.Song).Notes.Count(n => (n.Channel, n.Key) is (10, 36)), csv.Split('\n').Count(l => l.Contains("Note_on_c") && !l.EndsWith(", 0", StringComparison.Ordinal)));
        Assert.Contains("Tempo, 652174", csv);
        Assert.Contains("Time_signature, 4, 2", csv);
        Programs.Run("midicsv", _folder["papers/notes/elements.mid"]);
        Assert.Equal("Fog Signal", SessionFile.Read(papers.Single(p => p.Path == "split/session.json").Body).Value!.File.Name);
        Assert.All(papers.Where(p => p.Path.StartsWith("split/charts/", StringComparison.Ordinal)), p => Assert.True(ChartJson.Read(System.Text.Encoding.UTF8.GetString(p.Body)).Ok));
        var sheet = System.Text.Encoding.UTF8.GetString(papers.Single(p => p.Path == "track sheet.html").Body);
        Assert.Contains("<h1>Fog Signal</h1>", sheet);
        Assert.DoesNotContain("<script", sheet);
        Assert.Contains("<svg", sheet);
    }

    private static HandoffPlan Plan(HandoffMaterial material, HandoffWish wish) => HandoffPlan.Of(material, wish, Made).Value!;

    /// <summary>Three tracks of Fog Signal: Kick and Snare in groups of which one feeds the other, the hat in another.</summary>
    private HandoffMaterial Grouped()
    {
        var split = FogSignal.Session.Split;
        var mix = split with
        {
            TrackGroups =
            [
                new TrackGroup(new("g1"), "Drums", true) { LevelDb = new(-2) },
                new TrackGroup(new("g2"), "Close", true) { LevelDb = new(-3), ParentId = new("g1") },
                new TrackGroup(new("g3"), "Hats", true) { LevelDb = new(1) },
            ],
            Tracks =
            [
                split.Tracks[1] with { GroupId = new("g1"), LevelDb = new(-6), Pan = Pan.HardLeft },
                split.Tracks[2] with { GroupId = new("g2"), LevelDb = Decibels.Unity, Pan = Pan.Centre },
                split.Tracks[3] with { GroupId = new("g3"), LevelDb = Decibels.Unity, Pan = new(0.3) },
            ],
        };
        return Material(FogSignal.Session with { Split = mix });
    }

    /// <summary>Each track of a session as a line of noise, in one take.</summary>
    private HandoffMaterial Material(DemoSession demo, double seconds = 0.5)
    {
        var song = Song.Of(demo.Song);
        var take = new HandoffTake(2, true, Made.AddDays(-1), "", SplitView.Of(demo.Split, song), song, MidiWriter.Write(demo.Song));
        var random = new Random(3);
        return new HandoffMaterial(demo.Name, demo.Split, [.. demo.Split.Tracks.Select(Line)], []);

        HandoffLine Line(Track track)
        {
            var format = new AudioFormat((int)track.Width, Rate, SampleFormat.Pcm24);
            Frames frames = new((long)(seconds * Rate));
            if (!File.Exists(_folder[$"{track.Id}.wav"]))
            {
                var bytes = new byte[format.Bytes(frames).Count];
                random.NextBytes(bytes);
                using var writer = new WaveWriter(_folder[$"{track.Id}.wav"], format, frames, null);
                writer.Write(bytes);
                writer.Finish();
                writer.TakeName();
            }

            return new HandoffLine(track.Id, track.Name, take, "somewhere", $"{track.Id}.wav", format, frames, RenderPlan.AsItIs((int)track.Width, frames), false);
        }
    }
}

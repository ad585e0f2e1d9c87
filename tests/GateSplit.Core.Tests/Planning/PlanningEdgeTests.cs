using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Planning;

/// <summary>Planning at its edges: what is called what, what is the last that fits, and what is left alone.</summary>
public sealed class PlanningEdgeTests
{
    private static readonly Split Kit = Sessions.Kit.Split;
    private static readonly Split Drums = Sessions.Drums.Split;
    private static readonly TrackId[] Two = [new("t1"), new("t2")];

    public static TheoryData<Edit, string> Names => new()
    {
        { Bulk.CountInputs(Kit, Two, new InputRef(new BankId("b-u1"), 1)), "Count the inputs of 2 tracks upward" },
        { Bulk.CountInputs(Kit, Two[..1], new InputRef(new BankId("b-u1"), 1)), "Count the inputs of 1 track upward" },
        { Bulk.Name(Kit, Two, "Tom"), "Name 2 tracks" },
        { Bulk.Arm(Kit, Two, true), "Arm 2 tracks" },
        { Bulk.Arm(Kit, Two, false), "Disarm 2 tracks" },
        { Bulk.PutInGroup(Kit, Two, new TrackGroupId("g1")), "Group 2 tracks" },
        { Bulk.Monitor(Kit, Two, MonitorMode.Never), "Set the monitoring of 2 tracks" },
        { Bulk.Widen(Kit, Two, Width.Mono), "Make mono 2 tracks" },
        { Bulk.Widen(Kit, Two, Width.Stereo), "Make stereo 2 tracks" },
        { Bulk.Remove(Kit, Two), "Remove 2 tracks" },
        { Bulk.CountPorts(Sessions.View(Kit, Sessions.Kit.Song), Two, 3).Value!, "Count the ports of 2 tracks from 3" },
        { LevelPlan.ToUnity(Sessions.View(Sessions.After(Kit, new SetFader(Of("hat"), new Decibels(-1))), Sessions.Kit.Song))!, "Set the source faders to unity" },
        { LevelPlan.Trim(Sessions.View(Kit, Sessions.Kit.Song), [(Of("hat"), new Decibels(0))])!, "Turn down what is too hot" },
    };

    [Fact]
    public void No_two_rows_of_inputs_bear_the_same_name()
    {
        Chart Called(string name) => PocketWeir.Chart with { Name = name };
        Assert.Equal(["App", "Bus"], Rows(Called("Pocket Weir")));
        Assert.Equal(["Pocket App", "Pocket 2 App", "Pocket 3 App", "Bus"], Rows(Called("Pocket Weir"), Called("Pocket Weir"), Called("Pocket Weir")));
        Assert.Equal(["Low App", "Low Kit App", "Bus"], Rows(Called("Low Kit") with { Id = new ChartId("a") }, Called("Low End Kit") with { Id = new ChartId("b") }));
        Assert.Equal(["Row 2 App", "Row 3 App", "Bus"], Rows(Called(new string('x', 45)) with { Id = new ChartId("a") }, Called(new string('x', 45)) with { Id = new ChartId("b") }));

        // Added later, too, and beside a row that somebody named.
        var split = Sessions.After(StartingSplit.Of([PocketWeir.Chart], 4, 48000), new AddBank(BankKind.Loopback, "Pocket App", 2), new AddUnit(PocketWeir.Chart), new AddUnit(PocketWeir.Chart));
        Assert.Equal(["App", "Pocket 2 App", "Pocket 3 App"], split.Banks.Where(b => b.UnitId is not null).Select(b => b.Label));
    }

    private static IEnumerable<string> Rows(params Chart[] charts) => StartingSplit.Of(charts, 4, 48000).Banks.Select(b => b.Label);

    [Theory]
    [MemberData(nameof(Names))]
    public void An_action_on_many_is_one_step_with_a_name(Edit edit, string name) => Assert.Equal(name, edit.Name(Kit));

    [Fact]
    public void Ports_are_counted_to_the_very_last_and_of_one_source_only()
    {
        var view = Sessions.View(Kit, Sessions.Kit.Song);
        Assert.True(Bulk.CountPorts(view, Two, 11).Ok);
        Assert.Equal("Ostler Kit Room has too few ports from 12 on for 2 tracks.", Bulk.CountPorts(view, Two, 12).Trouble);
        Assert.Equal("Choose tracks that each carry something, all from one source.", Bulk.CountPorts(view, [], 1).Trouble);

        var unfed = Sessions.After(Kit, new SetTrackInput(new TrackId("t1"), null));
        Assert.Equal("Choose tracks that each carry something, all from one source.", Bulk.CountPorts(Sessions.View(unfed, Sessions.Kit.Song), Two, 1).Trouble);
        var two = Sessions.After(Kit, new AddUnit(SiskinMono.Chart), new AddTrack(new Track(new TrackId("t90"), "Lead", Width.Mono) { Input = new InputRef(new BankId("b-u2"), 1) }), new SetSounds(new(new UnitId("u2"), SiskinMono.Chart.Elements[0].Id), true));
        Assert.Equal("Choose tracks that each carry something, all from one source.", Bulk.CountPorts(Sessions.View(two, Sessions.Kit.Song), [new TrackId("t1"), new TrackId("t90")], 1).Trouble);

        // On a source of mono ports a stereo track finds none.
        var drums = Sessions.Drums;
        var wide = drums.Split.With(drums.Split.Tracks[0] with { Width = Width.Stereo });
        Assert.Contains("too few ports from 2 on for 1 track", Bulk.CountPorts(Sessions.View(wide, drums.Song), [new TrackId("t1")], 2).Trouble);
    }

    [Fact]
    public void Tracks_without_an_input_or_without_sound_come_last_in_every_order()
    {
        var song = Sessions.Kit.Song;
        var split = Sessions.After(Kit, new SetTrackInput(new TrackId("t1"), null));
        TrackId[] all = [.. split.Tracks.Select(t => t.Id)];
        var view = Sessions.View(split, song);
        Assert.All(
            new[] { Bulk.OrderByInput(split, all), Bulk.OrderByElement(view, all), Bulk.OrderByPort(view, all) },
            edit => Assert.Equal([.. all[1..], all[0]], Sessions.After(split, edit).Tracks.Select(t => t.Id)));
    }

    [Fact]
    public void A_track_of_several_stands_where_its_first_element_belongs()
    {
        // The room joins the kick on its track, which stays in front of the snare's.
        var song = Sessions.Kit.Song;
        var joined = Sessions.After(Kit, new AssignPort(Of("room"), 2), new RemoveTrack(new TrackId("t11")), new MoveTrack(new TrackId("t2"), 5));
        TrackId[] all = [.. joined.Tracks.Select(t => t.Id)];
        Assert.Equal(["t1", "t2", "t3"], Sessions.After(joined, Bulk.OrderByElement(Sessions.View(joined, song), all)).Tracks.Take(3).Select(t => t.Id.Value));
    }

    [Fact]
    public void Faders_are_set_to_unity_only_where_a_port_hears_them()
    {
        var moved = Sessions.After(Kit, new SetFader(Of("hat"), new Decibels(-3)), new SetFader(Of("ride"), new Decibels(2)));
        var after = Sessions.After(moved, LevelPlan.ToUnity(Sessions.View(moved, Sessions.Kit.Song))!);
        Assert.All(after.Units[0].Elements, e => Assert.Equal(Decibels.Unity, e.FaderDb));
        var before = moved.With(moved.Units[0] with { Chart = moved.Units[0].Chart with { Ports = [.. moved.Units[0].Chart.Ports.Select(p => p with { Tap = Tap.BeforeFader })] } });
        Assert.Null(LevelPlan.ToUnity(Sessions.View(before, Sessions.Kit.Song)));
        Assert.Null(LevelPlan.ToUnity(Sessions.View(after, Sessions.Kit.Song)));
        Assert.Null(LevelPlan.Trim(Sessions.View(before, Sessions.Kit.Song), [(Of("hat"), new Decibels(9))]));
    }

    [Theory]
    [InlineData(0.04, null)]
    [InlineData(0.06, -3.1)]
    [InlineData(2.26, -5.3)]
    [InlineData(200, -120.0)]
    public void What_peaks_above_the_target_comes_down_by_as_much_to_a_tenth(double over, double? fader)
    {
        var split = Sessions.After(Kit, new SetFader(Of("hat"), new Decibels(-3)));
        var target = split.Pass.TargetPeakDb.Value;
        var edit = LevelPlan.Trim(Sessions.View(split, Sessions.Kit.Song), [(Of("hat"), new Decibels(target + over)), (Of("hat"), new Decibels(target - 9)), (Of("ride"), new Decibels(target))]);
        Assert.Equal(fader, edit is null ? null : Sessions.After(split, edit).Units[0].Element(new ElementId("hat")).FaderDb.Value);
        Assert.True(edit is null || Sessions.After(split, edit).Units[0].Element(new ElementId("ride")).FaderDb == Decibels.Unity);
    }

    [Fact]
    public void A_row_of_inputs_is_called_by_its_kind_and_by_its_source_where_there_are_several()
    {
        string Rows(params Chart[] charts) => string.Join(", ", StartingSplit.Of(charts, 4, 48000).Banks.Select(b => $"{b.Id} {b.Label} {b.Kind} {b.Count}"));
        Assert.Equal("b-u1 USB Usb 12, buses Bus Buses 8", Rows(MudlarkNine.Chart));
        Assert.Equal("b-u1 Mudlark USB Usb 12, b-u2 Mudlark 2 USB Usb 12, b-u3 Return PlugInReturns 24, buses Bus Buses 8", Rows(MudlarkNine.Chart, MudlarkNine.Chart, OstlerKitRoom.Chart));
        Assert.Equal(["Mudlark Nine", "Mudlark Nine 2", "Mudlark Nine 3"], StartingSplit.Of([MudlarkNine.Chart, MudlarkNine.Chart, MudlarkNine.Chart], 4, 48000).Units.Select(u => u.Name));
        Assert.Equal("b-u1 App AppToApp 12, buses Bus Buses 8", Rows(PocketWeir.Chart with { Kind = SourceKind.Tablet }).Replace($" {PocketWeir.Chart.Channels},", " 12,", StringComparison.Ordinal));
        var pass = StartingSplit.Of([MudlarkNine.Chart], 7, 44100).Pass;
        Assert.Equal((7, 1, null, 44100, SampleFormat.Pcm24), (pass.LengthBars, pass.CountInBars, pass.TailSeconds, pass.SampleRate, pass.Format));
    }

    [Fact]
    public void A_source_that_is_added_takes_the_first_id_that_is_free_and_a_row_before_those_of_the_recorder()
    {
        var three = Sessions.After(Drums, new AddUnit(MudlarkNine.Chart), new AddUnit(OstlerKitRoom.Chart));
        Assert.Equal(["u1 Mudlark Nine", "u2 Mudlark Nine 2", "u3 Ostler Kit Room"], three.Units.Select(u => $"{u.Id} {u.Name}"));
        Assert.Equal(["USB", "Mudlark USB", "Return", "Bus"], three.Banks.Select(b => b.Label));
        var again = Sessions.After(three, new RemoveUnit(new UnitId("u2")), new AddUnit(MudlarkNine.Chart));
        Assert.Equal(["u1", "u3", "u2"], again.Units.Select(u => u.Id.Value));
        var many = Drums;
        for (var i = 1; i < SplitRules.MostUnits; i++)
        {
            many = Sessions.After(many, new AddUnit(SiskinMono.Chart));
        }

        var named = Drums with { Banks = [.. Drums.Banks, .. Enumerable.Range(2, 40).Select(n => new Bank(new BankId($"b-u{n}"), $"Row {n}", BankKind.Analog, 2, null))] };
        Assert.Equal("u42", Sessions.After(named, new AddUnit(SiskinMono.Chart)).Units[^1].Id.Value);
        Assert.Equal("A split has at most 16 sources.", new AddUnit(SiskinMono.Chart).Apply(many).Trouble);
    }

    [Theory]
    [InlineData(1, 1)]
    [InlineData(4, 1)]
    [InlineData(5, 2)]
    public void A_check_pattern_is_as_many_bars_as_its_voices_take(int voices, int bars)
    {
        var song = Song.Of(CheckPattern.Of([MudlarkNine.Chart with { Voices = [.. MudlarkNine.Chart.Voices.Take(voices)] }], Tempo.Default));
        Assert.Equal((voices, bars), (song.Notes.Length, (int)song.Bars));
        Assert.Equal(1920 * bars, song.File.Tracks[0][^1].Tick);
        var keyless = MudlarkNine.Chart with { Voices = [MudlarkNine.Chart.Voices[0] with { Keys = [], Channel = 3 }] };
        Assert.Equal(new Note(3, 48, 100, 0, 432), Song.Of(CheckPattern.Of([keyless], Tempo.Default)).Notes.Single());
    }

    [Theory]
    [InlineData(PrintKind.Mix, "the mix of each source")]
    [InlineData(PrintKind.Effects, "effects alone")]
    [InlineData(PrintKind.Stems, "stems")]
    [InlineData(PrintKind.Outboard, "through outboard")]
    [InlineData(PrintKind.Lines, "")]
    public void A_print_of_a_kind_says_so(PrintKind kind, string note) => Assert.Equal(note, PrintPlan.Note(kind));

    [Theory]
    [InlineData("Overheads L", "Overheads", 5)]
    [InlineData("overheads right", "Overheads", 5)]
    [InlineData("OVERHEADS-LEFT", "Overheads", 0)] // no blank before the side: another name
    [InlineData("Kick  in", "Kick in", 5)]
    [InlineData("Kick in L", "Kick in", 5)]
    [InlineData("Kick", "Kick in", 0)]
    [InlineData("Overheads R", "Overheads", 0, 6)] // the last channel is no pair
    public void A_channel_goes_by_its_name_without_the_side(string channel, string track, int at, int named = 5)
    {
        var file = new BroughtFile("take.wav", new AudioFormat(6, 48000, SampleFormat.Pcm24), 100, ImmutableDictionary<int, string>.Empty.Add(named, channel));
        var lines = BringInPlan.Of(Kit, [file]).Where(l => Kit.Track(l.TrackId)!.Name == track && l.Why == "by the channel's name").ToList();
        Assert.Equal(at, lines.Count == 0 ? 0 : lines[0].Channel);
    }

    [Theory]
    [InlineData("Hat.wav", 1, true)]
    [InlineData("My hat 2.wav", 1, true)]
    [InlineData("Hats.wav", 1, false)]
    [InlineData("What.wav", 1, false)]
    [InlineData("Hat.wav", 2, true)]
    [InlineData("Hat.wav", 3, false)]
    public void A_file_goes_by_a_whole_word_of_its_name(string name, int channels, bool taken) => Assert.Equal(
        taken,
        BringInPlan.Of(Kit, [new BroughtFile(name, new AudioFormat(channels, 48000, SampleFormat.Pcm24), 100, ImmutableDictionary<int, string>.Empty)]).Any(l => Kit.Track(l.TrackId)!.Name == "Hat" && l.Why == "by its name"));

    [Fact]
    public void What_is_laid_says_why()
    {
        string[] Reasons(Chart chart, LayWish wish)
        {
            var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
            return [.. Layer.Propose(Sessions.View(StartingSplit.Of([chart], 4, 48000), song), wish).Reasons];
        }

        Assert.Equal(["Ostler Kit Room's Out 1 (main) is used too: every element leaves it, so nothing else is on it."], Reasons(OstlerKitRoom.Chart, new LayWish()));
        Assert.Equal(["Effect return of Mudlark Nine can leave by the main mix only, and stays there.", "Mudlark Nine is set to Separate, since Mix only has only 1 port."], Reasons(MudlarkNine.Chart, new LayWish()));
        Assert.Contains("13 lines of Wicker Keys on 4 ports take 4 passes: in each, only its own lines play.", Reasons(WickerKeys.Chart, new LayWish(HardPan: false)));
        Assert.Contains("Rim + Clap share a voice of Heron Ten and so one line.", Reasons(HeronTen.Chart, new LayWish()));
        Assert.Contains("Siskin Mono has its main output and no other.", Reasons(SiskinMono.Chart, new LayWish()));
    }

    private static ElementRef Of(string element) => new(new UnitId("u1"), new ElementId(element));
}

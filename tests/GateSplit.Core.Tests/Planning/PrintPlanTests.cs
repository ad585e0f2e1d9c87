using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Planning;

/// <summary>Prints of other kinds against what their parts add up to.</summary>
public sealed class PrintPlanTests : IDisposable
{
    private const double Half = 0.7071067811865476; // a mono line in the middle of a pair
    private readonly TempFolder _folder = new();
    private int _prints;

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void The_mix_of_a_source_is_the_sum_of_its_lines_where_they_are_panned_and_its_effect()
    {
        var (split, song) = Session();
        var lines = Print(split, song, PrintKind.Lines);
        var mix = Assert.Single(Print(split, song, PrintKind.Mix));
        Assert.Equal("Two mix", mix.Key);
        AssertEqual(Sum((lines["Low"][0], 1), (lines["High"][0], Half), (lines["Hall"][0], 1)), mix.Value[0]);
        AssertEqual(Sum((lines["High"][0], Half), (lines["Hall"][1], 1)), mix.Value[1]);
    }

    [Fact]
    public void Effects_alone_are_the_return_and_nothing_dry()
    {
        var (split, song) = Session();
        var without = Print(Sessions.After(split, new AssignPort(new ElementRef(new UnitId("u1"), new ElementId("hall")), 1)), song, PrintKind.Effects);
        var effects = Print(split, song, PrintKind.Effects);
        Assert.Equal(["Hall of Two"], effects.Keys);
        var line = Print(split, song, PrintKind.Lines)["Hall"];
        AssertEqual(line[0], effects["Hall of Two"][0]);
        AssertEqual(line[1], effects["Hall of Two"][1]);
        AssertEqual(line[0], without["Hall of Two"][0]); // in the main mix, with nothing else there
    }

    [Fact]
    public void A_stem_is_the_sum_of_its_group_at_its_levels_and_pans()
    {
        var (split, song) = Session();
        Assert.Contains("groups first", PrintPlan.For(Sessions.View(split, song), PrintKind.Stems).Trouble);
        var grouped = Sessions.After(
            split with { TrackGroups = [new TrackGroup(new TrackGroupId("g1"), "Drums", Sums: false) { LevelDb = new Decibels(-6) }] },
            new PutInGroup(new TrackId("t1"), new TrackGroupId("g1")),
            new PutInGroup(new TrackId("t2"), new TrackGroupId("g1")),
            new SetTrackPan(new TrackId("t1"), new Pan(-1)),
            new SetTrackLevel(new TrackId("t2"), new Decibels(3)));
        var lines = Print(grouped, song, PrintKind.Lines);
        var stem = Assert.Single(Print(grouped, song, PrintKind.Stems));
        Assert.Equal("Drums", stem.Key);
        double Db(double db) => Math.Pow(10, db / 20);
        AssertEqual(Sum((lines["Low"][0], Db(-6)), (lines["High"][0], Half * Db(-3))), stem.Value[0]);
        AssertEqual(Sum((lines["High"][0], Half * Db(-3))), stem.Value[1]);
    }

    [Fact]
    public void Lines_go_through_outboard_one_at_a_time_as_takes_of_themselves()
    {
        var (split, song) = Session();
        Assert.Contains("looped-back pair", PrintPlan.For(Sessions.View(split, song), PrintKind.Outboard).Trouble);
        var patched = split with { Banks = split.Banks.Add(new Bank(new BankId("loop"), "Loop", BankKind.Loopback, 2, null) { DelaySamples = 100, OutboardDb = new Decibels(-6) }) };
        var plan = PrintPlan.For(Sessions.View(patched, song), PrintKind.Outboard).Value!;
        Assert.Equal(["t1", "t2", "t3"], plan.ArmedTracks.Select(t => t.Id.Value));
        Assert.Equal(3, plan.Split.Passes);
        Assert.DoesNotContain(AllChecks.Look(plan), f => f.Severity == Severity.Stop);
        var lines = Print(patched, song, PrintKind.Lines);
        var through = Print(patched, song, PrintKind.Outboard);
        var level = Math.Pow(10, -6 / 20.0);
        foreach (var (name, sides) in through)
        {
            for (var side = 0; side < sides.Length; side++)
            {
                AssertEqual(Sum(([.. new float[100], .. lines[name][side][..^100]], level)), sides[side]);
            }
        }
    }

    [Theory]
    [InlineData(PrintKind.Stems)]
    [InlineData(PrintKind.Outboard)]
    public void Several_passes_are_refused_where_all_lines_are_needed(PrintKind kind)
    {
        var (split, song) = Session();
        Assert.Contains("pass", PrintPlan.For(Sessions.View(Sessions.After(split, new SetTrackPass(new TrackId("t2"), 2)), song), kind).Trouble);
    }

    private static float[] Sum(params (float[] Samples, double Gain)[] parts) =>
        [.. Enumerable.Range(0, parts[0].Samples.Length).Select(i => (float)parts.Sum(p => p.Samples[i] * p.Gain))];

    private static void AssertEqual(float[] expected, float[] actual)
    {
        Assert.Equal(expected.Length, actual.Length);
        Assert.True(expected.Max() > 0.01);
        Assert.InRange(expected.Zip(actual, (a, b) => Math.Abs(a - b)).Max(), 0, 2e-6);
    }

    private Dictionary<string, float[][]> Print(Split split, Song song, PrintKind kind)
    {
        var folder = Directory.CreateDirectory(_folder[$"p{_prints++}"]).FullName;
        var plan = PrintPlan.For(Sessions.View(split, song), kind);
        Assert.True(plan.Ok, plan.Trouble);
        return new StandInRecorder(plan.Value, song)
            .Print(t => Path.Combine(folder, t.Id + ".wav"), DateTime.UnixEpoch)
            .ToDictionary(t => t.Track.Name, t => Recorded.Sides(t.Path));
    }

    /// <summary>Two mono drums, one panned left, with a hall; each on a line of its own.</summary>
    private static (Split Split, Song Song) Session()
    {
        ChartVoice Voice(string id, int key, double hertz) => new(new VoiceId(id), id, 10, [key]) { Drum = new DrumPatch { BodyHz = hertz, BodyLevel = 0.5, BodyDecaySeconds = 0.3 } };
        var chart = new Chart(new ChartId("two"), "Two", SourceKind.PlugIn, "Two drums.")
        {
            Voices = [Voice("low", 36, 90), Voice("high", 40, 700)],
            Elements =
            [
                new ChartElement(new ElementId("low"), "Low", Family.LowDrum, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(new VoiceId("low"))], Port = 2, SendDb = new Decibels(-9), InMain = false, Pan = new Pan(-1) },
                new ChartElement(new ElementId("high"), "High", Family.Snare, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(new VoiceId("high"))], Port = 3, SendDb = new Decibels(-6), InMain = false },
                new ChartElement(new ElementId("hall"), "Hall", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { ReturnSeconds = 0.8, Port = 4, InMain = false },
            ],
            Ports =
            [
                new ChartPort(1, "Main", 1, Width.Stereo, Tap.AfterFader) { IsMain = true },
                new ChartPort(2, "Low", 3, Width.Mono, Tap.AfterFader),
                new ChartPort(3, "High", 4, Width.Mono, Tap.AfterFader),
                new ChartPort(4, "Hall", 5, Width.Stereo, Tap.AfterFader),
            ],
            Modes = [new ChartMode(new ModeId("all"), "All", [1, 2, 3, 4], NeedsRestart: false)],
        };
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var beat = 0; beat < 4; beat++)
        {
            writer.Hold(10, beat % 2 == 0 ? 36 : 40, 110, beat, 0.2);
        }

        var split = StartingSplit.Of([chart], 1, 48000);
        Track Line(string id, string name, Width width, int channel) => new(new TrackId(id), name, width) { Input = new InputRef(new BankId("b-u1"), channel) };
        return (
            split with
            {
                Tracks = [Line("t1", "Low", Width.Mono, 3), Line("t2", "High", Width.Mono, 4), Line("t3", "Hall", Width.Stereo, 5)],
                Pass = split.Pass with { Format = SampleFormat.Float32, TailSeconds = 0.5 },
            },
            Song.Of(writer.ToFile("Two", 1)));
    }
}

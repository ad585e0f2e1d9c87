using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>Gear that is late, drifts, shakes, hisses and clips is recorded so, and by just as much as was set.</summary>
public sealed class SimulatedGearTests : IDisposable
{
    private const int Rate = 48000;
    private readonly TempFolder _folder = new();
    private int _prints;

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void Latency_of_a_source_moves_every_sample_and_changes_none()
    {
        var (split, song) = Clicks(bars: 2);
        var plain = Print(split, song);
        var late = Print(With(split, new SimulatedUnit { LatencyMs = 10 }), song);
        Assert.Equal(plain[..^480], late[480..]);
        Assert.Equal(0, late[..480].Max(Math.Abs));
    }

    [Fact]
    public void The_interface_records_late_by_its_samples()
    {
        var (split, song) = Clicks(bars: 2);
        var plain = Print(split, song);
        var late = Print(Sessions.After(split, new SetSimulatedInterface(new SimulatedInterface { LatencySamples = 1234 })), song);
        Assert.Equal(plain[..^1234], late[1234..]);
    }

    [Fact]
    public void A_free_source_starts_when_it_is_started_and_drifts_by_its_parts_in_a_million()
    {
        var (split, song) = Clicks(bars: 8);
        var gear = new SimulatedUnit { OffsetMs = 25, DriftPpm = 200 };
        Assert.Equal(Onsets(Print(split, song)), Onsets(Print(With(split, gear), song))); // it follows: nothing of this counts
        var free = Onsets(Print(Sessions.After(With(split, gear), new SetClock(new UnitId("u1"), ClockMode.Free)), song));

        // A click every half second: 24000 frames, 1200 late, and 4.8 frames more for each.
        Assert.Equal(Enumerable.Range(0, 32).Select(i => (long)Math.Round(24000 * i + 1200 + 4.8 * i)), free);
    }

    [Fact]
    public void A_clock_shakes_the_notes_and_calms_down_once_the_loop_has_gone_round()
    {
        var (split, song) = Clicks(bars: 8);
        var shaken = With(split, new SimulatedUnit { JitterMs = 5 });
        long[] Off(Split s) => [.. Onsets(Print(s, song)).Select((at, i) => at - 24000 * i)];
        var first = Off(Sessions.After(shaken, new SetSimulatedUnit(new UnitId("u1"), new SimulatedUnit { JitterMs = 5, LatencyMs = 5 }))).Select(o => o - 240).ToArray();
        Assert.InRange(first.Max(Math.Abs), 180, 240);
        Assert.True(first.Distinct().Count() > 20);
        var settled = Off(Sessions.After(
            shaken,
            new SetSimulatedUnit(new UnitId("u1"), new SimulatedUnit { JitterMs = 5, LatencyMs = 5 }),
            new SetPass(shaken.Pass with { Looped = true, SettleLoops = 1 }))).Select(o => o - 240);
        Assert.InRange(settled.Max(Math.Abs), 10, 24);
    }

    [Fact]
    public void A_source_started_before_the_first_bar_is_recorded_from_the_first_bar_on()
    {
        var (split, song) = Clicks(bars: 2);
        var early = Print(Sessions.After(With(split, new SimulatedUnit { OffsetMs = -2 }), new SetClock(new UnitId("u1"), ClockMode.Free)), song);
        var plain = Print(split, song);
        Assert.Equal(plain[96..], early[..^96]);
    }

    [Fact]
    public void A_settled_loop_holds_what_its_second_round_holds()
    {
        var (split, once) = Clicks(bars: 2, ringing: true);
        var (_, twice) = Clicks(bars: 4, ringing: true);
        var settled = Print(Sessions.After(split, new SetPass(split.Pass with { Looped = true, SettleLoops = 1 })), once);
        var through = Print(split with { Pass = split.Pass with { LengthBars = 4 } }, twice);
        var body = 2 * 4 * 24000;
        Assert.Equal(through[body..(2 * body)], settled[..body]);
        Assert.NotEqual(0, settled[0]); // what was struck before the wrap still rings
    }

    [Fact]
    public void Converters_hiss_as_loud_as_was_set_and_each_in_its_own_way()
    {
        var (split, song) = Clicks(bars: 2);
        var quiet = Sessions.After(
            split,
            new SetMuted(new ElementRef(new UnitId("u1"), new ElementId("click")), true),
            new AddTrack(new Track(new TrackId("t2"), "Other", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 2) }),
            new SetSimulatedInterface(new SimulatedInterface { NoiseDb = new Decibels(-80) }));
        var printed = PrintAll(quiet with { Pass = quiet.Pass with { Format = SampleFormat.Float32 } }, song);
        Assert.All(printed, p => Assert.Equal(-80, p.Measure.Channels[0].Rms.Value, 0.05));
        var (a, b) = (Samples(printed[0]), Samples(printed[1]));
        Assert.InRange(a.Zip(b, (x, y) => (double)x * y).Sum() / a.Sum(x => (double)x * x), -0.02, 0.02);
    }

    [Fact]
    public void A_converter_that_clips_cuts_off_even_where_the_file_could_hold_more()
    {
        var (split, song) = Clicks(bars: 1);
        var hot = Sessions.After(split with { Pass = split.Pass with { Format = SampleFormat.Float32 } }, new ShapeVoice(new UnitId("u1"), new UnitVoice(new VoiceId("click")) { LevelDb = new Decibels(12) }));
        Assert.True(Print(hot, song).Max(Math.Abs) > 1.5);
        Assert.Equal(1f, Print(Sessions.After(hot, new SetSimulatedInterface(new SimulatedInterface { Clips = true })), song).Max(Math.Abs));
    }

    [Theory]
    [InlineData(-1, 0)]
    [InlineData(0, 501)]
    public void Amounts_that_no_gear_has_are_refused(double latency, double drift) =>
        Assert.False(new SetSimulatedUnit(new UnitId("u1"), new SimulatedUnit { LatencyMs = latency, DriftPpm = drift }).Apply(Clicks(1).Split).Ok);

    [Fact]
    public void An_input_can_be_crossed_with_one_other_only()
    {
        var split = Clicks(1).Split;
        InputRef In(int n) => new(new BankId("b-u1"), n);
        Result<Split> Cross(params CrossedInputs[] crossed) => new SetSimulatedInterface(new SimulatedInterface { Crossed = [.. crossed] }).Apply(split);
        Assert.True(Cross(new CrossedInputs(In(1), In(2))).Ok);
        Assert.False(Cross(new(In(1), In(2)), new(In(2), In(1))).Ok);
        Assert.False(Cross(new CrossedInputs(In(1), In(1))).Ok);
        Assert.False(Cross(new CrossedInputs(In(1), In(9))).Ok);
    }

    private static Split With(Split split, SimulatedUnit gear) => Sessions.After(split, new SetSimulatedUnit(new UnitId("u1"), gear));

    /// <summary>A box that follows a clock and clicks every beat at 120, on one of its two mono outputs over USB.</summary>
    private static (Split Split, Song Song) Clicks(int bars, bool ringing = false)
    {
        var chart = new Chart(new ChartId("clicker"), "Clicker", SourceKind.Hardware, "It clicks.")
        {
            Clock = new ChartClock(true, true, true),
            Voices = [new ChartVoice(new VoiceId("click"), "Click", 10, [40]) { Drum = new DrumPatch { BodyHz = 2000, BodyLevel = 0.6, BodyDecaySeconds = ringing ? 3 : 0.05, NoiseLevel = 0.1, NoiseDecaySeconds = 0.04, NoiseLowHz = 500, NoiseHighHz = 9000 } }],
            Elements = [new ChartElement(new ElementId("click"), "Click", Family.TomAndPercussion, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(new VoiceId("click"))], Port = 1, InMain = false }],
            Ports = [new ChartPort(1, "A", 1, Width.Mono, Tap.BeforeFader) { IsMain = true }, new ChartPort(2, "B", 2, Width.Mono, Tap.BeforeFader)],
            Modes = [new ChartMode(new ModeId("all"), "All", [1, 2], NeedsRestart: false)],
        };
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var beat = 0; beat < 4 * bars; beat++)
        {
            writer.Hold(10, 40, 100, beat, 0.2);
        }

        var split = GateSplit.Core.Planning.StartingSplit.Of([chart], bars, Rate);
        return (
            split with { Tracks = [new Track(new TrackId("t1"), "Click", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 1) }], Pass = split.Pass with { TailSeconds = 1 } },
            Song.Of(writer.ToFile("Clicks", bars)));
    }

    private float[] Print(Split split, Song song) => Samples(PrintAll(split, song)[0]);

    private List<PrintedTrack> PrintAll(Split split, Song song)
    {
        var folder = Directory.CreateDirectory(_folder[$"p{_prints++}"]).FullName;
        return [.. new StandInRecorder(Sessions.View(split, song), song) { BlockFrames = 1500 }.Print(t => Path.Combine(folder, t.Id + ".wav"), DateTime.UnixEpoch)];
    }

    /// <summary>The first sample of each click: the first sound after at least a tenth of a second without any.</summary>
    private static List<long> Onsets(float[] samples)
    {
        var onsets = new List<long>();
        var quiet = 4800;
        for (var i = 0; i < samples.Length; i++)
        {
            if (samples[i] != 0)
            {
                if (quiet >= 4800)
                {
                    onsets.Add(i);
                }

                quiet = 0;
            }
            else
            {
                quiet++;
            }
        }

        return onsets;
    }

    private static float[] Samples(PrintedTrack track) => Recorded.Samples(track.Path);
}

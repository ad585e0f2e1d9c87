using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>What is heard live is what a print of the same split would hold.</summary>
public sealed class LiveRigTests : IDisposable
{
    private const int Rate = 48000;
    private const int BarFrames = 2 * Rate; // 120 quarters a minute in 4/4
    private static readonly ElementRef Keys = new(new UnitId("u1"), new ElementId("keys"));
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void A_line_that_is_listened_to_is_sample_for_sample_what_a_print_holds()
    {
        var (split, song) = Session();
        Equal(Print(split, song), Listen(new LiveRig(split, song, Line), 4 * BarFrames));
    }

    [Fact]
    public void Sources_that_are_started_in_a_later_bar_play_what_follows_and_the_file_is_silent_before()
    {
        var (split, song) = Session();
        var late = Sessions.After(split, new SetPass(split.Pass with { StartBar = 3 }));
        var printed = Print(late, song);
        Assert.All(printed[..(2 * BarFrames)], s => Assert.Equal(0, s));

        // The same music without its first two bars, a key that was pressed before and is still held among it.
        Equal(Print(split, Music(fromBar: 2)), printed);
        Equal(printed[(2 * BarFrames)..], Listen(new LiveRig(split, song, Line, startBar: 3), 2 * BarFrames));
    }

    [Fact]
    public void Setting_the_rig_up_again_while_it_plays_is_not_heard()
    {
        var (split, song) = Session();
        var rig = new LiveRig(split, song, Line);
        var heard = Listen(rig, 60_000);
        rig.Take(rig.Prepare(split, Line, rig.Position - 5_000));
        Equal(Print(split, song)[..150_000], [.. heard, .. Listen(rig, 90_000)]);
    }

    [Fact]
    public void A_change_is_heard_from_the_next_block_on_and_nothing_before_it()
    {
        var (split, song) = Session();
        var printed = Print(split, song);
        var rig = new LiveRig(split, song, Line);
        var before = Listen(rig, 50_000);
        var at = before.Length;
        rig.Take(rig.Prepare(Sessions.After(split, new SetFader(Keys, new Decibels(-6))), Line, rig.Position));
        var after = Listen(rig, 50_000);
        Equal(printed[..at], before);
        var ratio = (float)Math.Pow(10, -6 / 20.0);
        Equal([.. printed[(at + LiveRig.BlockFrames)..100_000].Select(s => s * ratio)], after[LiveRig.BlockFrames..(100_000 - at)]);
    }

    [Fact]
    public void The_click_counts_in_on_every_beat_and_no_file_holds_it()
    {
        var (split, song) = Session();
        var counted = Sessions.After(split, new SetPass(split.Pass with { CountInBars = 2 }));
        var rig = new LiveRig(counted, song, Line, startBar: 3, click: ClickMode.CountIn);
        Assert.Equal(0, rig.Position); // two bars before the third
        var heard = Listen(rig, 3 * BarFrames);
        for (var beat = 0; beat < 8; beat++)
        {
            var at = beat * Rate / 2;
            Assert.True(heard[(at + 1)..(at + 200)].Max() > 0.2, $"beat {beat}");
            Assert.All(heard[(at + Rate / 8)..(at + Rate / 2)], s => Assert.Equal(0, s));
        }

        Equal(Print(Sessions.After(split, new SetPass(split.Pass with { StartBar = 3 })), song)[(2 * BarFrames)..(3 * BarFrames)], heard[(2 * BarFrames)..]);
        Equal(Print(split, song), Print(counted, song));
    }

    [Fact]
    public void A_click_all_the_way_goes_on_behind_the_count_in()
    {
        var (split, song) = Session();
        var with = Listen(new LiveRig(split, song, Line, click: ClickMode.Throughout), 2 * BarFrames);
        var without = Listen(new LiveRig(split, song, Line, click: ClickMode.CountIn), 2 * BarFrames);
        var beat = BarFrames + Rate;
        Assert.Equal(without[..BarFrames], with[..BarFrames]);
        Assert.True(with[beat..(beat + 200)].Zip(without[beat..(beat + 200)], (a, b) => a - b).Max() > 0.2);
    }

    [Fact]
    public void A_control_that_is_moved_by_hand_is_heard_at_once_and_stays_until_it_is_let_go()
    {
        var (split, song) = Session();
        var printed = Print(split, song);
        var rig = new LiveRig(split, song, Line);
        Assert.False(rig.Move(Keys, RideControl.Level, 0));
        rig.Take(rig.Prepare(split, Line, rig.Position));
        Listen(rig, 20_000);
        Assert.True(rig.Move(Keys, RideControl.Level, -20));
        Listen(rig, LiveRig.BlockFrames * 2); // the hand needs 20 ms
        var from = (int)rig.Position.Count;
        Equal([.. printed[from..(from + 30_000)].Select(s => s * 0.1f)], Listen(rig, 30_000)[..30_000]);
        rig.LetGo();
        rig.Take(rig.Prepare(split, Line, rig.Position));
        Listen(rig, LiveRig.BlockFrames * 2);
        from = (int)rig.Position.Count;
        Equal(printed[from..(from + 30_000)], Listen(rig, 30_000)[..30_000]);
    }

    [Fact]
    public void Bars_go_round_and_round()
    {
        var (split, song) = Session();
        var rig = new LiveRig(split, song, Line) { Round = (2, 2) };
        var heard = Listen(rig, 3 * BarFrames);
        var second = Print(split, song)[BarFrames..(2 * BarFrames)];
        Assert.False(rig.HasEnded);

        // It goes straight from the first bar into the second, and then round: behind the passing over it is the same again.
        Equal(second[^20_000..], heard[(2 * BarFrames - 20_000)..(2 * BarFrames)]);
        Equal(second[^20_000..], heard[(3 * BarFrames - 20_000)..(3 * BarFrames)]);
    }

    [Fact]
    public void The_main_mix_and_the_recorders_mix_are_what_they_are_called()
    {
        var (split, song) = Session();
        var printed = Print(split, song);
        var mono = (float)Math.Sqrt(0.5);
        Equal([.. printed.Select(s => s * mono)], Listen(new LiveRig(split with { Tracks = [split.Tracks[0] with { Pan = new Pan(0) }] }, song, Ear.Mix), 4 * BarFrames));
        Equal(printed, Listen(new LiveRig(split, song, new Ear(new UnitId("u1"), [])), 4 * BarFrames));
        Assert.All(Listen(new LiveRig(split with { Tracks = [split.Tracks[0] with { Monitor = MonitorMode.Never }] }, song, Ear.Mix), BarFrames), s => Assert.Equal(0, s));
    }

    [Fact]
    public void It_ends_where_the_pass_ends_and_tells_the_bar()
    {
        var (split, song) = Session();
        var rig = new LiveRig(split, song, Line);
        Listen(rig, 4 * BarFrames + Rate / 2);
        Assert.True(rig.HasEnded);
        Assert.Equal(4 * BarFrames + Rate / 2, rig.EndFrame);
        Assert.Equal(2.25, rig.BarAt(BarFrames + BarFrames / 4), 0.0001);
    }

    private static Ear Line => Ear.Parse("lines t1");

    /// <summary>The left side of what comes next, at least so many frames of it.</summary>
    private static float[] Listen(LiveRig rig, int frames)
    {
        var heard = new List<float>();
        float[] left = new float[LiveRig.BlockFrames], right = new float[LiveRig.BlockFrames];
        while (heard.Count < frames)
        {
            var (_, count) = rig.Render(left, right);
            heard.AddRange(left[..count]);
        }

        return [.. heard];
    }

    private static void Equal(float[] expected, float[] actual)
    {
        Assert.True(expected.Length > 1000 && expected.Max() > 0.01);
        for (var i = 0; i < Math.Min(expected.Length, actual.Length); i++)
        {
            if (Math.Abs(expected[i] - actual[i]) > 2e-6)
            {
                Assert.Fail($"At {i} it is {actual[i]}, and should be {expected[i]}.");
            }
        }
    }

    private float[] Print(Split split, Song song)
    {
        var path = _folder[$"{Guid.NewGuid():N}.wav"];
        new StandInRecorder(Sessions.View(split, song), song).Print(_ => path, DateTime.UnixEpoch);
        return Recorded.Samples(path);
    }

    /// <summary>A drum and held keys on one mono port, four bars; the track is panned left.</summary>
    private static (Split Split, Song Song) Session()
    {
        var chart = new Chart(new ChartId("few"), "Few", SourceKind.PlugIn, "It plays.")
        {
            Voices =
            [
                new ChartVoice(new VoiceId("hit"), "Hit", 10, [40]) { Drum = new DrumPatch { BodyHz = 180, BodyLevel = 0.4, BodyDecaySeconds = 0.4, NoiseLevel = 0.2, NoiseDecaySeconds = 0.2, NoiseLowHz = 60, NoiseHighHz = 20000 } },
                new ChartVoice(new VoiceId("keys"), "Keys", 1, []) { Tone = new TonePatch { Saw = 0.5, Sine = 0.5 } },
            ],
            Elements = [new ChartElement(new ElementId("keys"), "Keys", Family.Keys, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(new VoiceId("hit")), new Hearing(new VoiceId("keys"))], Port = 1, Pan = new Pan(-1) }],
            Ports = [new ChartPort(1, "Out", 1, Width.Stereo, Tap.AfterFader) { IsMain = true }],
            Modes = [new ChartMode(new ModeId("all"), "All", [1], NeedsRestart: false)],
        };
        var split = GateSplit.Core.Planning.StartingSplit.Of([chart], 4, Rate);
        return (
            split with
            {
                Tracks = [new Track(new TrackId("t1"), "Keys", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 1), Pan = new Pan(-1) }],
                Pass = split.Pass with { Format = SampleFormat.Float32, TailSeconds = 0.5 },
            },
            Music(fromBar: 0));
    }

    /// <summary>Hits on every beat and keys of which each is held into the bar that follows.</summary>
    private static Song Music(int fromBar)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var beat = 4 * fromBar; beat < 16; beat++)
        {
            writer.Hold(10, 40, 70 + 3 * beat, beat, 0.2);
            if (beat % 4 == 2)
            {
                writer.Hold(1, 50 + beat, 100, beat + 0.013, 3.7);
            }
        }

        return Song.Of(writer.ToFile("Few", 4));
    }
}

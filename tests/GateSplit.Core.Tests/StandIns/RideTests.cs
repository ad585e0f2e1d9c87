using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>A ride is in the file as far as the tap lets it, and at the place where it was made.</summary>
public sealed class RideTests : IDisposable
{
    private const int Bar = 96000; // two seconds at 120
    private readonly TempFolder _folder = new();
    private int _prints;

    public void Dispose() => _folder.Dispose();

    [Fact]
    public void A_level_is_ridden_behind_the_fader_and_nowhere_else()
    {
        var (split, song) = Hits();
        var plain = Print(split, song);
        var ridden = Print(Ride(split, RideControl.Level, (1, 0), (2, 0), (3, -20)), song);
        Assert.Equal(plain["Before"], ridden["Before"]);
        Assert.Equal(plain["After"][..Bar], ridden["After"][..Bar]);

        // Straight in dB from bar 2 to bar 3: in the middle of it -10.
        for (var i = Bar; i < 2 * Bar; i += 997)
        {
            Assert.Equal(plain["After"][i] * Math.Pow(10, -20.0 * (i - Bar) / Bar / 20), ridden["After"][i], 1e-4);
        }

        Assert.Equal(plain["After"][2 * Bar + 100] * 0.1, ridden["After"][2 * Bar + 100], 1e-6);
    }

    [Fact]
    public void A_mute_begins_and_ends_where_it_says()
    {
        var (split, song) = Hits();
        var plain = Print(split, song)["Before"];
        var ridden = Print(Ride(split, RideControl.Mute, (1, 0), (2, 1), (3, 0)), song)["Before"];
        Assert.Equal(plain[..(Bar - 64)], ridden[..(Bar - 64)]);
        Assert.All(ridden[(Bar + 64)..(2 * Bar - 64)], s => Assert.Equal(0, s));
        Assert.Equal(plain[(2 * Bar + 64)..], ridden[(2 * Bar + 64)..]);
    }

    [Fact]
    public void Tune_and_decay_are_those_of_the_bar_in_which_a_note_begins()
    {
        var (split, song) = Hits();
        var shaped = Print(Sessions.After(split, new ShapeVoice(new UnitId("u1"), new UnitVoice(new VoiceId("hit")) { TuneSemitones = 7, DecayScale = 0.5 })), song)["Before"];
        var ridden = Print(Ride(Ride(split, RideControl.Tune, (1, 0), (1.99, 0), (2, 7)), RideControl.Decay, (1, 1), (1.99, 1), (2, 0.5)), song)["Before"];
        var plain = Print(split, song)["Before"];
        Assert.Equal(plain[..(Bar - 1)], ridden[..(Bar - 1)]);

        // What was struck in the first bar has fallen by 80 dB by the third.
        Assert.All(Enumerable.Range(2 * Bar, Bar), i => Assert.Equal(shaped[i], ridden[i], 5e-4));
        Assert.Contains(Enumerable.Range(2 * Bar, Bar), i => Math.Abs(plain[i] - ridden[i]) > 0.1);
    }

    [Theory]
    [InlineData(500)]
    [InlineData(2000)]
    public void A_filter_that_stands_still_is_a_two_pole_low_pass(double hertz)
    {
        // A body of 2000 Hz behind a Butterworth low-pass: |H|^2 = 1 / (1 + (f/fc)^4).
        var (split, song) = Hits(noise: 0);
        var plain = Print(split, song)["Before"];
        var ridden = Print(Ride(split, RideControl.Filter, (1, hertz)), song)["Before"];
        double Energy(float[] s) => s.Skip(2400).Take(9600).Sum(x => (double)x * x);
        Assert.Equal(-10 * Math.Log10(1 + Math.Pow(2000 / hertz, 4)), 10 * Math.Log10(Energy(ridden) / Energy(plain)), 0.2);
    }

    [Theory]
    [InlineData(RideControl.Filter)]
    [InlineData(RideControl.Level)]
    [InlineData(RideControl.Mute)]
    public void Each_side_of_a_stereo_element_is_ridden_by_itself(RideControl control)
    {
        var random = new Random(4);
        float[] Noise() => [.. Enumerable.Range(0, 6000).Select(_ => (float)(random.NextDouble() - 0.5))];
        var (left, right) = (Noise(), Noise());
        var element = new ElementId("hit");
        var points = control switch { RideControl.Filter => new[] { new RidePoint(1, 300), new RidePoint(1.05, 4000) }, RideControl.Level => [new RidePoint(1, -3), new RidePoint(1.05, -20)], _ => [new RidePoint(1.01, 1)] };
        var curve = new RideCurve(new Ride(new ElementRef(new UnitId("u1"), element), control, [.. points]), Hits().Song, 48000);
        var chart = new ChartElement(element, "Hit", Family.Snare, ElementKind.Voice, Width.Stereo);

        (float[] Left, float[] Right) Ridden(float[] l, float[] r)
        {
            var ridden = Core.StandIns.Ridden.Of(chart, new Dictionary<(ElementId, RideControl), RideCurve> { [(element, control)] = curve }, 48000)!;
            var (left, right) = (new List<float>(), new List<float>());
            for (var at = 0; at < l.Length; at += 1000)
            {
                var (partL, partR) = (l[at..(at + 1000)], r.Length == 0 ? [] : r[at..(at + 1000)]);
                ridden.Process(at, partL, partR);
                left.AddRange(control == RideControl.Level ? ridden.AfterFader(0, 1000).ToArray() : partL);
                right.AddRange(r.Length > 0 && control == RideControl.Level ? ridden.AfterFader(1, 1000).ToArray() : partR);
            }

            return ([.. left], [.. right]);
        }

        var both = Ridden(left, right);
        Assert.Equal(Ridden(left, []).Left, both.Left);
        Assert.Equal(Ridden(right, []).Left, both.Right);
        Assert.NotEqual(left, both.Left);
    }

    [Fact]
    public void A_frequency_moves_evenly_in_octaves()
    {
        var song = Hits().Song;
        var curve = new RideCurve(new Ride(new ElementRef(new UnitId("u1"), new ElementId("hit")), RideControl.Filter, [new RidePoint(1, 200), new RidePoint(3, 3200)]), song, 48000);
        Assert.Equal([200, 400, 800, 1600, 3200, 3200], new[] { 0L, Bar / 2, Bar, 3 * Bar / 2, 2 * Bar, 9 * Bar }.Select(f => Math.Round(curve.At(new(f)), 3)));
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(1, 64)]
    [InlineData(64, 64)]
    [InlineData(-1, 0)]
    [InlineData(-70, -64)]
    public void A_control_that_is_moved_by_hand_sets_out_at_the_next_cell_of_the_grid(int frame, int from)
    {
        var curve = new RideCurve(new Ride(new ElementRef(new UnitId("u1"), new ElementId("hit")), RideControl.Level, [new RidePoint(1, 0)]), Hits().Song, 48000);
        curve.Move(frame, -15);
        Assert.Equal((0, -1, -15, -15), (curve.At(from), curve.At(from + 64), curve.At(from + 15 * 64), curve.At(from + 9999)));
    }

    [Fact]
    public void A_filter_that_opens_lets_more_and_more_through()
    {
        var (split, song) = Hits(noise: 0.7);
        var ridden = Print(Ride(split, RideControl.Filter, (1, 150), (5, 15000)), song)["Before"];

        // Zero crossings of the noise rise with the frequency up to which it is let through.
        var crossings = Enumerable.Range(0, 4).Select(bar => ridden.Skip(bar * Bar).Take(4800).Pairwise().Count(p => p.Item1 < 0 != p.Item2 < 0)).ToList();
        Assert.Equal(crossings.Order(), crossings);
        Assert.True(crossings[3] > 4 * crossings[0], string.Join(' ', crossings));
    }

    [Fact]
    public void A_send_that_is_ridden_away_leaves_the_effect_silent_and_the_line_as_it_is()
    {
        var (split, song) = Hits();
        var plain = Print(split, song);
        var ridden = Print(Ride(split, RideControl.Send, (1, -60)), song);
        Assert.Equal(plain["After"], ridden["After"]);
        double Rms(float[] s) => 10 * Math.Log10(s.Sum(x => (double)x * x) / s.Length);
        Assert.Equal(Rms(plain["Room"]) - 60, Rms(ridden["Room"]), 0.1);
    }

    [Fact]
    public void The_bytes_of_a_ridden_print_do_not_depend_on_the_blocks()
    {
        var (split, song) = Hits();
        var ridden = Ride(Ride(Ride(split, RideControl.Filter, (1, 150), (5, 15000)), RideControl.Level, (1, -9), (4, 3)), RideControl.Mute, (2.3, 1), (2.6, 0));
        var reference = Print(ridden, song, block: 4096, threads: 1);
        Assert.All(new[] { 64, 1000 }, block => Assert.Equal(reference["After"], Print(ridden, song, block, threads: 2)["After"]));
    }

    [Theory]
    [InlineData(RideControl.Level, 1, 13)]
    [InlineData(RideControl.Filter, 1, 20)]
    [InlineData(RideControl.Tune, 0.5, 0)]
    [InlineData(RideControl.Mute, 99, 1)]
    [InlineData(RideControl.Send, double.NaN, 0)]
    public void What_goes_further_than_a_control_goes_is_refused(RideControl control, double bar, double value) =>
        Assert.False(new SetRide(new Ride(new ElementRef(new UnitId("u1"), new ElementId("hit")), control, [new RidePoint(bar, value)])).Apply(Hits().Split).Ok);

    [Fact]
    public void A_ride_without_points_is_taken_away_and_another_takes_the_place_of_the_first()
    {
        var split = Ride(Ride(Hits().Split, RideControl.Level, (1, 0)), RideControl.Level, (3, 2), (1, 1));
        Assert.Equal([1, 3], Assert.Single(split.Rides).Points.Select(p => p.Bar));
        Assert.Empty(Ride(split, RideControl.Level).Rides);
    }

    private static Split Ride(Split split, RideControl control, params (double Bar, double Value)[] points) =>
        Sessions.After(split, new SetRide(new Ride(new ElementRef(new UnitId("u1"), new ElementId("hit")), control, [.. points.Select(p => new RidePoint(p.Bar, p.Value))])));

    /// <summary>One hit a bar for four bars, on a port before its fader and on one after it; and the effect it feeds.</summary>
    private static (Split Split, Song Song) Hits(double noise = 0.1)
    {
        var chart = new Chart(new ChartId("hits"), "Hits", SourceKind.PlugIn, "It hits.")
        {
            Voices = [new ChartVoice(new VoiceId("hit"), "Hit", 10, [40]) { Drum = new DrumPatch { BodyHz = 2000, BodyLevel = noise == 0.7 ? 0 : 0.6, BodyDecaySeconds = 3, NoiseLevel = noise, NoiseDecaySeconds = 3, NoiseLowHz = 60, NoiseHighHz = 20000 } }],
            Elements =
            [
                new ChartElement(new ElementId("hit"), "Hit", Family.TomAndPercussion, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(new VoiceId("hit"))], Port = 2, SendDb = new Decibels(-6) },
                new ChartElement(new ElementId("room"), "Room", Family.RoomAndReturn, ElementKind.Return, Width.Stereo) { ReturnSeconds = 1, Port = 3, InMain = false },
            ],
            Ports =
            [
                new ChartPort(1, "After", 1, Width.Stereo, Tap.AfterFader) { IsMain = true },
                new ChartPort(2, "Before", 3, Width.Mono, Tap.BeforeFader),
                new ChartPort(3, "Room", 4, Width.Stereo, Tap.AfterFader),
            ],
            Modes = [new ChartMode(new ModeId("all"), "All", [1, 2, 3], NeedsRestart: false)],
        };
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var bar = 0; bar < 4; bar++)
        {
            writer.Hold(10, 40, 127, 4 * bar, 0.2);
        }

        var split = GateSplit.Core.Planning.StartingSplit.Of([chart], 4, 48000);
        return (
            split with
            {
                Pass = split.Pass with { Format = SampleFormat.Float32, TailSeconds = 0.5 },
                Tracks =
                [
                    new Track(new TrackId("t1"), "After", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 1) },
                    new Track(new TrackId("t2"), "Before", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 3) },
                    new Track(new TrackId("t3"), "Room", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 4) },
                ],
            },
            Song.Of(writer.ToFile("Hits", 4)));
    }

    private Dictionary<string, float[]> Print(Split split, Song song, int block = 8192, int threads = 2)
    {
        var folder = Directory.CreateDirectory(_folder[$"p{_prints++}"]).FullName;
        return new StandInRecorder(Sessions.View(split, song), song) { BlockFrames = block, Threads = threads }
            .Print(t => Path.Combine(folder, t.Id + ".wav"), DateTime.UnixEpoch)
            .ToDictionary(t => t.Track.Name, t => Recorded.Samples(t.Path));
    }
}

/// <summary>A small help for the tests of rides.</summary>
internal static class Pairs
{
    /// <summary>Each sample with the one after it.</summary>
    public static IEnumerable<(float, float)> Pairwise(this IEnumerable<float> samples) => samples.Zip(samples.Skip(1));
}

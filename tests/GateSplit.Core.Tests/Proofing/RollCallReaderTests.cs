using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>A roll call is read from sounds made here, one question at a time.</summary>
public sealed class RollCallReaderTests
{
    private const int Rate = 48000;
    private const double Gap = 1.5; // s between turns

    /// <summary>A sound, as seconds behind its beginning give it.</summary>
    private delegate double Voice(double seconds);

    [Theory]
    [InlineData(0)]
    [InlineData(-120)]
    [InlineData(60)]
    public void Drift_is_told_by_the_hits_of_one_sound_whatever_its_beginning_is_like(double ppm)
    {
        // Each begins more softly than the one before, so that its beginning is told later.
        Voice[] voices = [.. Enumerable.Range(0, 6).Select(turn => Softly(Tom(200 + (40 * turn)), 0.0002 * turn))];
        var call = Call([.. voices.Select(_ => false)]);
        var reading = Read(call, [Played(call, voices, 0.3, ppm)]);
        Assert.Equal(ppm, reading.DriftPpm!.Value, 2.0);
    }

    [Fact]
    public void Where_hits_of_a_turn_are_no_one_sound_the_turns_tell_the_drift()
    {
        // Two turns are too few, and the others are noise that is never the same.
        var call = Call([false, false, false, false, false, false]);
        var random = new Random(4);
        Voice noise = s => Math.Exp(-s / 0.05) * ((2 * random.NextDouble()) - 1);
        var reading = Read(call, [Played(call, [Tom(200), noise, noise, Tom(300), noise, noise], 0.3, 80)]);
        Assert.Equal(80, reading.DriftPpm!.Value, 10.0);
    }

    [Fact]
    public void Latencies_of_which_a_few_lie_along_a_line_by_chance_are_no_drift()
    {
        // Each turn on a channel of its own, of noise that is never the same: the third to the fifth and the first lie along one line.
        double[] late = [0.15, 0.11, 0.14, 0.135, 0.13, 0.15, 0.01];
        var call = Call([.. late.Select(_ => false)]);
        var random = new Random(4);
        Voice noise = s => Math.Exp(-s / 0.05) * ((2 * random.NextDouble()) - 1);
        var channels = late.Select((by, turn) => Played(call, [.. late.Select((_, i) => i == turn ? noise : _ => 0)], 0.3 + by, 0)).ToArray();
        Assert.Null(Read(call, channels).DriftPpm);
    }

    [Theory]
    [InlineData(98, 0.2)]
    [InlineData(131, 0.3)]
    [InlineData(165, 0.5)]
    public void A_low_tone_that_rings_on_over_the_edge_of_what_is_compared_tells_the_latency_of_a_channel(double hertz, double ring)
    {
        // The other channel is driven, as a main mix is; both have noise of their own.
        Voice tom = s => Math.Exp(-s / ring) * Math.Sin(2 * Math.PI * hertz * s);
        var call = Call([false, false]);
        var direct = Played(call, [tom, tom], 0.3, 0);
        float[] driven = [.. Later(direct, 1413).Select(s => (float)(0.4 * Math.Tanh(2 * s)))];
        var reading = Read(call, [Noisy(direct, 1e-4, 1), Noisy(driven, 1e-4, 2)]);
        Assert.All(reading.Turns, turn => Assert.Equal(1413.0 / Rate, turn.Arrivals.Single(a => a.Channel == 2).LatencySeconds!.Value, 1e-4));
    }

    [Theory]
    [InlineData(0.0, 0.9, 0, 600, 1)] // the first place is two thirds as clear as the second
    [InlineData(0.0, -0.9, 0, 600, -1)] // and upside down there
    [InlineData(0.0, 0.6, 0, 612, 1)] // a third: the second is clear by itself
    [InlineData(0.0, 0.5, 0.8, 612, 1)] // half as clear, and a third place nearly as clear as the second
    [InlineData(0.8, 0.9, 0, 612, 1)] // the other element has two places as well
    public void Where_two_places_of_an_element_are_nearly_as_clear_its_latency_is_what_another_element_tells(double again, double earlier, double later, int told, int polarity)
    {
        // On the other channel 600 frames later; the second element mostly 612, as a tone is that has a period of so much.
        var random = new Random(4);
        var call = Call([false, false, false]);
        Voice click = s => Math.Exp(-s / 0.004) * ((2 * random.NextDouble()) - 1);
        var (one, two) = (Played(call, [click, _ => 0, click], 0.5, 0), Played(call, [_ => 0, click, _ => 0], 0.5, 0));
        var (main, other) = (one.ToArray(), Later(one, 600));
        SoxTake.Add(main, two, 0, 1);
        SoxTake.Add(other, one, 612, again);
        SoxTake.Add(other, two, 600, earlier);
        SoxTake.Add(other, two, 612, 1);
        SoxTake.Add(other, two, 640, later);
        var reading = Read(call, [Noisy(main, 1e-4, 1), Noisy([.. other.Select(s => 0.3f * s)], 1e-4, 2)]);
        var heard = reading.Turns.Select(t => t.Arrivals.Single(a => a.Channel == 2)).ToList();
        Assert.Equal([600, told, 600], heard.Select(a => (int)Math.Round(a.LatencySeconds!.Value * Rate)));
        Assert.Equal([1, polarity, 1], heard.Select(a => a.Polarity));
    }

    [Fact]
    public void What_another_element_tells_of_a_channel_counts_only_against_the_channel_on_which_both_are_loudest()
    {
        // The third element is loudest on a channel of its own, and tells most clearly by how much the second is later than that.
        var random = new Random(4);
        var call = Call([false, false, false]);
        Voice click = s => Math.Exp(-s / 0.004) * ((2 * random.NextDouble()) - 1);
        float[] Alone(int turn) => Played(call, [.. Enumerable.Range(0, 3).Select<int, Voice>(i => i == turn ? click : _ => 0)], 0.5, 0);
        var (one, two, three) = (Alone(0), Alone(1), Alone(2));
        float[] main = [.. one.Zip(two, (a, b) => a + b)];
        var other = Later(one, 600).Select(s => 0.1f * s).ToArray();
        SoxTake.Add(other, two, 600, 0.27);
        SoxTake.Add(other, two, 612, 0.3);
        SoxTake.Add(other, three, 250, 0.5);
        var reading = Read(call, [Noisy(main, 1e-3, 1), Noisy(other, 1e-3, 2), Noisy(three, 1e-3, 3)]);
        Assert.Equal([600, 600, 250], reading.Turns.Select(t => (int)Math.Round(t.Arrivals.Single(a => a.Channel == 2).LatencySeconds!.Value * Rate)));
        Assert.Equal([1, 1, 3], reading.Turns.Select(t => t.Arrivals[0].Channel));
    }

    [Fact]
    public void A_hall_begins_with_the_first_of_its_echoes_though_a_later_one_is_stronger()
    {
        var call = Call([false, false]);
        Voice echoes = s => Tom(300)(s) + (s < 0.1 ? 0 : 1.6 * Tom(500)(s - 0.1));
        var direct = Played(call, [Tom(300), Tom(300)], 0.3, 0);
        var hall = Played(call, [echoes, echoes], 0.4, 0);
        var turn = Read(call, [direct, [.. hall.Select(s => 0.3f * s)]]).Turns[1];
        var level = turn.Arrivals.Single(a => a.Channel == 2).Level.Value;
        var sound = Enumerable.Range(0, (int)(0.45 * Rate)).Select(i => 0.3 * 0.3 * Math.Pow(echoes((double)i / Rate), 2)).Average();
        Assert.Equal(10 * Math.Log10(sound * Loudness()), level, 0.3);
    }

    [Theory]
    [InlineData(0.0)]
    [InlineData(0.003)]
    public void Where_the_first_element_is_not_heard_noise_that_begins_with_the_file_is_no_turn(double noise)
    {
        var call = Call([true, true, true]);
        Voice held = s => s < 1.5 ? 0.5 * Math.Min(1, s / 0.01) * Math.Sin(2 * Math.PI * 220 * s) : 0;
        var played = Played(call, [_ => 0, held, held], 0.3, 0);
        var reading = Read(call, [Noisy(played, noise, 1), Noisy(new float[played.Length], noise, 2)]);
        Assert.Equal(0.3, reading.StartSeconds!.Value, 0.02);
        Assert.Equal([false, true, true], reading.Turns.Select(t => t.Arrivals.Length > 0));
    }

    [Fact]
    public void Where_the_first_element_is_not_heard_and_the_second_begins_with_the_file_it_is_a_turn()
    {
        var call = Call([true, true, true]);
        Voice held = s => s < 1.5 ? 0.5 * Math.Min(1, s / 0.01) * Math.Sin(2 * Math.PI * 220 * s) : 0;
        var reading = Read(call, [Played(call, [_ => 0, held, held], -call.Turns[1].Hits[0], 0)]);
        Assert.Equal(-call.Turns[1].Hits[0], reading.StartSeconds!.Value, 0.02);
    }

    private static RollCallReading Read(RollCall call, float[][] channels)
    {
        var reading = RollCallReading.Of(call, [.. channels.Select(c => new Samples(c, Rate))], cancel: TestContext.Current.CancellationToken);
        Assert.True(reading.Ok, reading.Trouble);
        return reading.Value!;
    }

    /// <summary>Turns of what is held or struck, one after the other.</summary>
    private static RollCall Call(bool[] held)
    {
        var (at, turns) = (2.75, new List<Turn>());
        foreach (var isHeld in held)
        {
            ImmutableArray<double> hits = isHeld ? [at] : [at, at + 1, at + 2];
            var end = isHeld ? at + 1.5 : at + 2;
            turns.Add(new([], $"Turn {turns.Count + 1}", 10, 36 + turns.Count, isHeld, hits, end, []));
            at = end + Gap;
        }

        return new(1, [.. turns], [], []);
    }

    /// <summary>A channel on which each turn has its voice: the hits as loud as their velocities, later by an offset and stretched by millionths.</summary>
    private static float[] Played(RollCall call, Voice[] voices, double offset, double ppm)
    {
        var sound = new float[(int)((call.Seconds + 2) * Rate)];
        foreach (var hit in RollCall.Marker)
        {
            Add(hit, voices[0], call.Turns[0].Held ? 1 : 0.8);
        }

        foreach (var (turn, voice) in call.Turns.Zip(voices))
        {
            foreach (var (hit, velocity) in turn.Hits.Zip(RollCall.Velocities))
            {
                Add(hit, voice, turn.Held ? 1 : velocity / 127.0);
            }
        }

        return sound;

        void Add(double hit, Voice voice, double level)
        {
            for (var frame = Math.Max(0, (int)Math.Ceiling((offset + (hit * (1 + (ppm / 1e6)))) * Rate)); frame < sound.Length; frame++)
            {
                // Where the recording runs slow, so does the sound.
                var seconds = ((((double)frame / Rate) - offset) / (1 + (ppm / 1e6))) - hit;
                if (seconds > 1.6)
                {
                    break;
                }

                sound[frame] += (float)(0.5 * level * voice(Math.Max(0, seconds)));
            }
        }
    }

    /// <summary>The mean energy of the three hits to that of a voice.</summary>
    private static double Loudness() => 0.25 * RollCall.Velocities.Average(v => Math.Pow(v / 127.0, 2));

    private static Voice Tom(double hertz) => s => Math.Exp(-s / 0.08) * (Math.Sin(2 * Math.PI * hertz * s) + (0.3 * Math.Sin(2 * Math.PI * 11.3 * hertz * s)));

    private static Voice Softly(Voice voice, double seconds) => s => seconds == 0 ? voice(s) : voice(s) * Math.Min(1, s / seconds);

    private static float[] Later(float[] sound, int frames) => [.. Enumerable.Range(0, sound.Length).Select(i => i < frames ? 0 : sound[i - frames])];

    private static float[] Noisy(float[] sound, double noise, int seed)
    {
        var random = new Random(seed);
        return [.. sound.Select(s => (float)(s + (noise * ((2 * random.NextDouble()) - 1))))];
    }
}

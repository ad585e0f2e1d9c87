using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// Measures how late a looped-back pair is: sends a short hit out of it and looks where it comes back, by the highest
/// correlation of what went out with what came in.
/// </summary>
public static class Ping
{
    private const int BlockFrames = 4096;
    private const int HitFrames = 2048;

    private static readonly Chart Source = new(new ChartId("ping"), "Ping", SourceKind.PlugIn, "A short hit.")
    {
        Voices = [new ChartVoice(new VoiceId("hit"), "Hit", 1, []) { Drum = new DrumPatch { BodyHz = 900, BodyLevel = 0.4, BodyDecaySeconds = 0.02, NoiseLevel = 0.3, NoiseDecaySeconds = 0.02, NoiseLowHz = 100, NoiseHighHz = 15000 } }],
        Elements = [new ChartElement(new ElementId("hit"), "Hit", Family.TomAndPercussion, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(new VoiceId("hit"))] }],
        Ports = [new ChartPort(1, "Out", 1, Width.Stereo, Tap.AfterFader) { IsMain = true }],
        Modes = [new ChartMode(new ModeId("all"), "All", [1], NeedsRestart: false)],
    };

    /// <summary>Measures the round trip of a pair in the simulated rig.</summary>
    /// <param name="split">The split.</param>
    /// <param name="pair">A looped-back pair of it.</param>
    /// <returns>Samples from the output to the input.</returns>
    public static int RoundTrip(Split split, Bank pair)
    {
        var start = StartingSplit.Of([Source], 1, split.Pass.SampleRate);
        var unit = start.Units[0];
        var patched = start with
        {
            Banks = start.Banks.Add(pair with { Off = [], Widths = InputWidths.Any }),
            Interface = split.Interface with { Crossed = [] },
            Tracks =
            [
                new Track(new TrackId("t1"), "Out", Width.Stereo) { Input = new InputRef(start.BankOf(unit).Id, 1), Armed = false, Monitor = MonitorMode.Always, Bus = new InputRef(pair.Id, 1) },
                new Track(new TrackId("t2"), "In", Width.Stereo) { Input = new InputRef(pair.Id, 1), Monitor = MonitorMode.Never },
            ],
        };
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hold(1, 60, 127, 0, 0.25);
        var rig = new SoundingRig(patched, Song.Of(writer.ToFile("Ping", 1)), [new TrackId("t1"), new TrackId("t2")], null, BlockFrames);
        var (sent, received) = (new List<float>(), new List<float>());
        var converters = Converter.Of(patched.Tracks[1], patched, BlockFrames);
        for (var number = 0; received.Count < Bank.LongestDelaySamples + HitFrames; number++)
        {
            var block = new Block(number, new((long)number * BlockFrames), BlockFrames);
            rig.Render(block);
            sent.AddRange(rig.Desk.Samples(patched.Tracks[0], 0, block));
            var back = rig.Desk.Samples(patched.Tracks[1], 0, block);
            foreach (var converter in converters.Take(1))
            {
                converter.Process(back);
            }

            received.AddRange(back);
        }

        float[] hit = [.. sent.Take(HitFrames)], heard = [.. received];
        return Enumerable.Range(0, Bank.LongestDelaySamples + 1).MaxBy(lag => Correlation(hit, heard.AsSpan(lag, HitFrames)));
    }

    /// <summary>Polarity does not matter: outboard may turn it over.</summary>
    private static double Correlation(ReadOnlySpan<float> sent, ReadOnlySpan<float> received)
    {
        var sum = 0f;
        for (var i = 0; i < sent.Length; i++)
        {
            sum += sent[i] * received[i];
        }

        return Math.Abs(sum);
    }
}

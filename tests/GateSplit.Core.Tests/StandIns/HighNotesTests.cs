using System.Numerics;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using MathNet.Numerics.IntegralTransforms;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>What of a high note folds over at half the sample rate, found as lines beside its partials.</summary>
public sealed class HighNotesTests
{
    private const int Size = 1 << 15;

    public static TheoryData<string, string> Voices =>
    [
        .. from chart in Shelf.Charts
           from voice in chart.Voices
           where voice.Tone is not null && voice.Keys.IsEmpty
           select (chart.Id.Value, voice.Id.Value),
    ];

    [Theory]
    [MemberData(nameof(Voices))]
    public void Lines_that_are_no_partials_lie_far_below(string chartId, string voiceId)
    {
        var voice = Shelf.Find(new ChartId(chartId))!.Voices.First(v => v.Id.Value == voiceId);
        foreach (var rate in new[] { 44100, 48000 })
        {
            foreach (var (key, most) in new[] { (72, -60.0), (84, -60), (91, -60), (96, -60), (99, -50), (103, -50), (108, -50) })
            {
                var (line, hertz) = StrongestAlias(voice, key, rate);
                Assert.True(line <= most, $"{voice.Name}, key {key} at {rate}: {line:0.0} dB at {hertz:0} Hz");
            }
        }
    }

    private static (double Line, double Hertz) StrongestAlias(ChartVoice voice, int key, int rate)
    {
        var samples = Played(voice, key, rate);
        var bins = new Complex[Size];
        for (var i = 0; i < Size; i++)
        {
            // Blackman and Harris, four terms: 92 dB beside its main lobe.
            var turn = 2 * Math.PI * i / Size;
            bins[i] = samples[rate / 20 + i] * (0.35875 - 0.48829 * Math.Cos(turn) + 0.14128 * Math.Cos(2 * turn) - 0.01168 * Math.Cos(3 * turn));
        }

        Fourier.Forward(bins, FourierOptions.NoScaling);
        var tone = voice.Tone!;
        var pitch = 440 * Math.Pow(2, (key - 69 + tone.Semitones) / 12.0);
        var detune = Math.Pow(2, tone.DetuneCents / 2400);
        var partials = Enumerable.Range(1, 80).SelectMany(n => new[] { n * pitch, n * pitch * detune, n * pitch / detune })
            .Concat(tone.Bell > 0 ? Enumerable.Range(-20, 41).Select(k => Math.Abs(pitch * (1 + 3.5 * k))) : [])
            .Where(p => p < rate / 2.0).ToArray();
        var strongest = bins.Take(Size / 2).Max(b => b.Magnitude);
        return Enumerable.Range(90, Size / 2 - 90)
            .Where(bin => !partials.Any(p => Math.Abs(bin * (double)rate / Size - p) < 120))
            .Select(bin => (20 * Math.Log10(bins[bin].Magnitude / strongest), bin * (double)rate / Size))
            .Max();
    }

    private static float[] Played(ChartVoice voice, int key, int rate)
    {
        using var folder = new TempFolder();
        var one = new Chart(new ChartId("one"), "One", SourceKind.PlugIn, "One voice.")
        {
            Voices = [voice],
            Elements = [new ChartElement(new ElementId("e"), "E", Family.Keys, ElementKind.Voice, Width.Mono) { Hears = [new Hearing(voice.Id)], Port = 1 }],
            Ports = [new ChartPort(1, "Main", 1, Width.Mono, Tap.BeforeFader) { IsMain = true }],
            Modes = [new ChartMode(new ModeId("all"), "All", [1], false)],
        };
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hold(voice.Channel, key, 127, 0, 3);
        var song = Song.Of(writer.ToFile("One", 1));
        var split = StartingSplit.Of([one], 1, rate) with { Tracks = [new Track(new TrackId("t1"), "One", Width.Mono) { Input = new InputRef(new BankId("b-u1"), 1) }] };
        split = split with { Pass = split.Pass with { Format = Core.Sound.SampleFormat.Float32 } };
        return Recorded.Sides(new StandInRecorder(Sessions.View(split, song), song).Print(t => folder[t.Id + ".wav"], DateTime.UnixEpoch)[0].Path)[0];
    }
}

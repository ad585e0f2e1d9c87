using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>The same take is told the same at any sample rate, with sounds of another tool and a bass made in plain loops.</summary>
public sealed class SampleRateTests : IDisposable
{
    private const double Seconds = 26;
    private const double Every = 0.8; // s from one note of the bass to the next
    private static readonly int[] Keys = [.. Enumerable.Range(0, (int)((Seconds - 2) / Every)).Select(i => new[] { 45, 47, 50, 52, 57 }[i * 7 % 5])];
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(8000, 1.0 / 8)]
    [InlineData(22050, 0.5)]
    [InlineData(32000, 0.5)]
    [InlineData(44100, 1)]
    [InlineData(64000, 1)]
    [InlineData(88200, 2)]
    [InlineData(192000, 4)]
    [InlineData(384000, 8)]
    [InlineData(1, 1.0 / 16)]
    public void A_stretch_lasts_about_as_long_at_any_rate(int rate, double times)
    {
        Assert.Equal((int)(8192 * times), Lasting.Frames(8192, rate));
        Assert.Equal(Math.Max(1, (int)times), Lasting.Frames(1, rate));
    }

    [Theory]
    [InlineData(16000)]
    [InlineData(22050)]
    [InlineData(96000)]
    [InlineData(192000)]
    public void What_was_planted_is_told_at_any_rate(int rate)
    {
        var (sox, stems, parts, mix) = Take(rate);

        // Two exchanged, one upside down, bleeds of which one is loud, a bass that begins three notes late, and all of it half a second late.
        var files = stems.ToDictionary(s => s.Key, s => (float[])s.Value.Clone());
        (files["Crack"], files["Tick"]) = (files["Tick"], files["Crack"]);
        files["Chirp"] = [.. files["Chirp"].Select(s => -s)];
        SoxTake.Add(files["Thud"], stems["Pluck"], rate / 400, 0.1);
        SoxTake.Add(files["Pluck"], stems["Crack"], rate / 300, 0.02);
        files["Bass"].AsSpan(0, (int)((1 + (3 * Every) - 0.01) * rate)).Clear();
        var moved = files.ToDictionary(f => f.Key, f => Drawn.Out([.. f.Value, .. new float[rate]], rate / 2, 40));
        var proof = Proved(sox, moved, parts, mix);

        Assert.Equal([0, 4, 2, 3, 1, 5], proof.Tracks.Select(t => t.Identity.Part));
        Assert.Equal([1, 1, 1, -1, 1, 1], proof.Tracks.Select(t => t.Polarity));
        Assert.All(proof.Tracks, t => Assert.Null(t.Double));
        Assert.Equal(rate / 2, proof.FromReference!.Value.Start, 1.0);
        Assert.Equal(40, proof.FromReference.Value.Slope * 1e6, 1.0);
        Assert.All(proof.Tracks, t => Assert.Equal(0, t.OffsetSeconds!.Value, 0.0003));
        Assert.Equal((2, -20), (Assert.Single(proof.Tracks[0].Bleed).From, Math.Round(proof.Tracks[0].Bleed[0].Level.Value)));
        Assert.Equal(20 * Math.Log10(0.02), Assert.Single(proof.Tracks[2].Bleed, b => b.From == 4).Level.Value, 1.0);
        Assert.Equal(3, proof.MissingAtStart(5));
        Assert.Equal(
            [(1, ProofFault.OtherElement), (3, ProofFault.UpsideDown), (4, ProofFault.OtherElement), (5, ProofFault.EntersLate)],
            ProofFindings.Of(proof).Where(f => f is { File: not null, Severity: >= Severity.Warning }).Select(f => (f.File!.Value, f.Fault)).Order());
    }

    [Theory]
    [InlineData(22050)]
    [InlineData(192000)]
    public void A_clean_take_adds_up_to_its_mix_and_a_copy_is_told_at_any_rate(int rate)
    {
        var (sox, stems, parts, mix) = Take(rate);

        var clean = Proved(sox, stems, parts, mix);
        Assert.DoesNotContain(ProofFindings.Of(clean), f => f.Severity >= Severity.Warning);
        Assert.True(clean.Null!.Fitted.Value < -100, $"{clean.Null.Fitted}");
        Assert.Equal((0, 0), clean.FromReference!.Value);

        // The furthest that is looked for, at half the level.
        var lag = (int)(0.049 * rate);
        stems["Tick"] = new float[stems["Crack"].Length];
        SoxTake.Add(stems["Tick"], stems["Crack"], lag, 0.5);
        var copied = Proved(sox, stems.ToDictionary(s => s.Key, s => SoxTake.Noisy(s.Value, -70, s.Key.Length)), parts, null);
        var twin = copied.Tracks[4].Double!;
        Assert.Equal(1, twin.File);
        Assert.Equal(lag, twin.LagFrames, 0.1);
        Assert.Equal(-6.02, twin.Gain.Value, 0.2);
        Assert.Single(copied.Tracks, t => t.Double is not null);
    }

    [Theory]
    [InlineData(1, false)]
    [InlineData(700, true)]
    [InlineData(3000, true)]
    [InlineData(6000, true)]
    [InlineData(8000, true)]
    [InlineData(384_000, true)]
    public void A_bass_is_told_at_whatever_rate_it_can_be_heard_and_ends_no_proof(int rate, bool told)
    {
        var sox = new SoxTake(_folder.Path, rate);
        var (bass, late) = (Bass(rate), Bass(rate));
        late.AsSpan(0, (int)((1 + (3 * Every) - 0.01) * rate)).Clear();
        Part other = new("Silence", [2, 4, 6, 8], true) { Keys = [(3, 60)], Tones = [new Tone(2, 3, 60), new Tone(4, 5, 62), new Tone(6, 7, 64), new Tone(8, 9, 65)] };
        var proof = Proved(sox, new() { ["Bass"] = late, ["Silence"] = new float[bass.Length] }, [BassPart(), other], bass);
        Assert.Equal(told ? 0 : null, proof.Tracks[0].Identity.Part);
        Assert.Equal(told ? 3 : 0, proof.MissingAtStart(0));
        Assert.True(proof.Tracks[1].Scan.IsSilent);
    }

    [Fact]
    public void What_belongs_to_a_peak_lasts_as_long_at_any_rate()
    {
        // Its next value beyond 8 lags is exp(-0.81) of it, beyond 32 lags exp(-10.89).
        double[] values = [.. Enumerable.Range(0, 400).Select(i => Math.Exp(-(i - 200) * (i - 200) / 100.0))];
        Assert.Equal(Math.Exp(0.81), CrossCorrelation.PeakOf(values, 48000).Lead, 1e-9);
        Assert.Equal(Math.Exp(10.89), CrossCorrelation.PeakOf(values, 192000).Lead, 1e-4);
    }

    private (SoxTake Sox, Dictionary<string, float[]> Stems, List<Part> Parts, float[] Mix) Take(int rate)
    {
        var (sox, times) = (new SoxTake(_folder.Path, rate), SoxTake.Times(Seconds));
        var stems = SoxTake.Names.ToDictionary(n => n, n => sox.Placed(n, times[n], Seconds));
        stems["Bass"] = Bass(rate);
        var mix = new float[stems["Bass"].Length];
        foreach (var stem in stems.Values)
        {
            SoxTake.Add(mix, stem, 0, 1);
        }

        return (sox, stems, [.. SoxTake.Names.Select((n, i) => new Part(n, [.. times[n]], false) { Keys = [(10, 36 + i)] }), BassPart()], mix);
    }

    private static TakeProof Proved(SoxTake sox, Dictionary<string, float[]> files, List<Part> parts, float[]? mix)
    {
        List<WaveReader> open = [.. files.Select(f => WaveReader.Open(sox.Save($"{f.Key} {Guid.NewGuid():N}", f.Value)).Value!)];
        using var reference = mix is null ? null : WaveReader.Open(sox.Save($"mix {Guid.NewGuid():N}", mix)).Value;
        try
        {
            return TakeProof.Of([.. open.Select((w, i) => new ProofFile(parts[i].Name, w, i))], parts, reference);
        }
        finally
        {
            open.ForEach(o => o.Dispose());
        }
    }

    private static Part BassPart() => new("Bass", [.. Keys.Select((_, i) => 1 + (i * Every))], true)
    {
        Keys = [(2, 45)],
        Tones = [.. Keys.Select((key, i) => new Tone(1 + (i * Every), 1 + (i * Every) + 0.6, key))],
    };

    private static float[] Bass(int rate)
    {
        var sound = new float[(int)(Seconds * rate)];
        foreach (var (i, key) in Keys.Index())
        {
            var (start, length, pitch) = ((int)((1 + (i * Every)) * rate), (int)(0.6 * rate), 440 * Math.Pow(2, (key - 69) / 12.0));
            for (var n = 0; n < length; n++)
            {
                var swells = Math.Min(1, n / (0.01 * rate)) * Math.Min(1, (length - n) / (0.05 * rate));
                sound[start + n] += (float)(0.2 * swells * Enumerable.Range(1, 8).Sum(h => Math.Sin(2 * Math.PI * h * pitch * n / rate) / h));
            }
        }

        return sound;
    }
}

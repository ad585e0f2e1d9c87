using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

/// <summary>Spectra and loudness along the time of sounds whose levels are known by hand.</summary>
public sealed class AverageSpectrumTests
{
    [Theory]
    [InlineData(1000.0, 1.0, 48000)]
    [InlineData(100.0, 0.1, 44100)]
    [InlineData(8000.0, 0.5, 96000)]
    [InlineData(100.0, 0.1, 192000)]
    [InlineData(100.0, 0.1, 16000)]
    public void A_sine_stands_in_its_band_with_its_level_and_nowhere_else(double hertz, double size, int rate)
    {
        var spectrum = AverageSpectrum.Of(new Tone(rate, rate * 2, at => size * Math.Sin(2 * Math.PI * hertz * at / rate)));
        var strongest = spectrum.MaxBy(b => b.Level);
        Assert.InRange(strongest.Hertz / hertz, Math.Pow(2, -1 / 24.0), Math.Pow(2, 1 / 24.0));
        Assert.Equal(20 * Math.Log10(size) - 3.01, Decibels.FromRatio(Math.Sqrt(spectrum.Where(b => Math.Abs(Math.Log2(b.Hertz / hertz)) < 0.13).Sum(b => Math.Pow(b.Level.Ratio, 2)))).Value, 0.1);
        Assert.All(spectrum.Where(b => Math.Abs(Math.Log2(b.Hertz / hertz)) > 0.5), b => Assert.True(b.Level.Value < strongest.Level.Value - 60));
        Assert.True(spectrum.Max(b => b.Hertz) < rate / 2.0);
    }

    [Fact]
    public void What_sounds_half_of_the_time_is_3_dB_less_and_what_is_short_is_heard_whole()
    {
        var half = AverageSpectrum.Of(new Tone(48000, 480_000, at => at % 48_000 < 24_000 ? Math.Sin(2 * Math.PI * 1000 * at / 48000) : 0));
        Assert.Equal(-6.02, Decibels.FromRatio(Math.Sqrt(half.Where(b => b.Hertz is > 800 and < 1250).Sum(b => Math.Pow(b.Level.Ratio, 2)))).Value, 0.6);
        Assert.All(AverageSpectrum.Of(new Tone(48000, 100, _ => 0)), b => Assert.Equal(Decibels.Silence, b.Level));
        Assert.NotEmpty(AverageSpectrum.Of(new Tone(48000, 0, _ => 0)));
    }

    [Fact]
    public void A_history_tells_each_half_second_and_grows_no_longer_than_it_may()
    {
        var (loudness, block) = (new LoudnessMeter(48000, LoudnessMeter.Even(1)), new float[4800]);
        var history = new HistoryMeter(48000, loudness);
        for (var i = 0; i < 40 * 10; i++)
        {
            // 20 s of a sine of -20 dBFS at 997 Hz, which is -23.01 LUFS, then 20 s of silence.
            for (var n = 0; n < block.Length; n++)
            {
                block[n] = i < 200 ? (float)(0.1 * Math.Sin(2 * Math.PI * 997 * (i * block.Length + n) / 48000)) : 0;
            }

            loudness.Add([block], block.Length);
            history.Add(block.Max(), block.Length);
        }

        var told = history.Result();
        Assert.Equal((0.5, 80), (told.StepSeconds, told.Points.Length));
        Assert.Null(told.Points[4].ShortTerm);
        Assert.Equal(-23.01, told.Points[5].ShortTerm!.Value, 0.05);
        Assert.Equal(-20, told.Points[39].Peak.Value, 0.01);
        Assert.Equal(Decibels.Silence, told.Points[41].Peak);
        Assert.Null(told.Points[79].ShortTerm);

        for (var i = 0; i < 3600 * 10; i++)
        {
            history.Add(i == 30_000 ? 0.5f : 0, 4800);
        }

        var longer = history.Result();
        Assert.InRange(longer.Points.Length, HistoryMeter.MostPoints / 2, HistoryMeter.MostPoints - 1);
        Assert.Equal(3640, longer.StepSeconds * longer.Points.Length, longer.StepSeconds);
        Assert.Equal(-6.02, longer.Points[(int)(3040 / longer.StepSeconds)].Peak.Value, 0.01);
        Assert.Equal(1, longer.Points.Count(p => p.Peak.Value > -10));
    }

    /// <summary>A sound worked out frame by frame.</summary>
    private sealed record Tone(int Hertz, long Length, Func<long, double> At) : IMonoSound
    {
        public Frames Frames => new(Length);

        public SampleRate Rate => new(Hertz);

        public void Read(long start, Span<float> into)
        {
            for (var i = 0; i < into.Length; i++)
            {
                into[i] = start + i >= 0 && start + i < Length ? (float)At(start + i) : 0;
            }
        }
    }
}

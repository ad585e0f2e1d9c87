using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Sound;

/// <summary>The true peak on the signals of EBU Tech 3341 and against a brute search with long filters; the floor; a file as a whole, beside ffmpeg.</summary>
public sealed class TruePeakTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    /// <summary>Signals 15 to 19: a sine at a part of the sample rate, its phase in degrees, its amplitude, and what it must read within +0.2 and -0.4 dB.</summary>
    [Theory]
    [InlineData(4, 0, 0.5, -6)]
    [InlineData(4, 45, 0.5, -6)]
    [InlineData(6, 60, 0.5, -6)]
    [InlineData(8, 67.5, 0.5, -6)]
    [InlineData(4, 45, 1.41, 3)]
    public void Sines_whose_samples_miss_their_tops(int part, double phase, double amplitude, double wanted)
    {
        var meter = new TruePeakMeter();
        meter.Add([.. Enumerable.Range(0, 4800).Select(i => (float)(amplitude * Math.Min(1, Math.Min(i, 4799 - i) / 480.0) * Math.Sin(2 * Math.PI * i / part + phase * Math.PI / 180)))]);
        Assert.InRange(meter.Finish().Value, wanted - 0.4, wanted + 0.2);
    }

    [Fact]
    public void Noise_up_to_nine_tenths_of_the_band_peaks_where_a_brute_search_finds_it()
    {
        var random = new Random(11);
        for (var round = 0; round < 10; round++)
        {
            // A sum of sines has a value between its samples that needs no filter.
            var parts = Enumerable.Range(0, 12).Select(_ => (Frequency: 0.45 * random.NextDouble(), Phase: 7 * random.NextDouble(), Amplitude: random.NextDouble() / 8)).ToList();
            double At(double t) => parts.Sum(p => p.Amplitude * Math.Sin(2 * Math.PI * p.Frequency * t + p.Phase)) * Math.Clamp(Math.Min(t, 2000 - t) / 200, 0, 1);
            var meter = new TruePeakMeter();
            meter.Add([.. Enumerable.Range(0, 2001).Select(i => (float)At(i))]);
            var brute = 20 * Math.Log10(Enumerable.Range(0, 2000 * 32).Max(i => Math.Abs(At(i / 32.0))));
            Assert.InRange(meter.Finish().Value, brute - 0.4, brute + 0.1);
        }
    }

    [Theory]
    [InlineData(0)]
    [InlineData(63)]
    [InlineData(64)]
    [InlineData(65)]
    [InlineData(4999)]
    public void One_sample_anywhere_is_found_whatever_the_blocks(int at)
    {
        foreach (var block in new[] { 1, 7, 64, 5000 })
        {
            var samples = new float[5000];
            samples[at] = -0.25f;
            var meter = new TruePeakMeter();
            for (var i = 0; i < samples.Length; i += block)
            {
                meter.Add(samples.AsSpan(i, Math.Min(block, samples.Length - i)));
            }

            Assert.Equal(20 * Math.Log10(0.25), meter.Finish().Value, 1e-6);
        }

        Assert.Equal(Decibels.Silence, new TruePeakMeter().Finish());
    }

    [Fact]
    public void A_square_wave_at_full_scale_rises_above_it_at_its_very_end_too()
    {
        for (var before = 40; before < 140; before++)
        {
            var meter = new TruePeakMeter();
            meter.Add([.. new float[before], 1, 1]); // two samples at the end: the top lies between them
            Assert.InRange(meter.Finish().Value, 1.5, 2.5); // 4/pi between two equal samples: 2.1 dB
        }
    }

    [Fact]
    public void The_floor_is_what_a_tenth_of_the_stretches_stay_under()
    {
        var meter = new FloorMeter(new SampleRate(48000));
        for (var stretch = 0; stretch < 100; stretch++)
        {
            // 9 stretches at -60 dBFS, 91 at -20: the 10th of 100 is a loud one; one more quiet one turns it.
            meter.Add([.. Enumerable.Repeat(stretch < 9 ? 0.001f : 0.1f, 2400)]);
        }

        Assert.Equal(-20, meter.Result()!.Value.Value, 0.1);
        meter.Add([.. Enumerable.Repeat(0.001f, 2 * 2400)]);
        Assert.Equal(-60, meter.Result()!.Value.Value, 0.1);
        Assert.Null(new FloorMeter(new SampleRate(48000)).Result());
        var silent = new FloorMeter(new SampleRate(48000));
        silent.Add(new float[48000]);
        Assert.Equal(Decibels.Silence, silent.Result());
    }

    [Theory]
    [InlineData("synth 25 brownnoise tremolo 0.1 90 gain -3", 2)]
    [InlineData("synth 8 pluck 110 fade 0 8 2 gain -1", 1)]
    [InlineData("synth 12 square 3000 fade 4 12 4 gain -6", 2)]
    [InlineData("synth 8 pinknoise highpass 4000 gain -9 pad 3 3", 2)]
    public void A_file_reads_as_with_another_tool(string effects, int channels)
    {
        var path = _folder["sound.wav"];
        Programs.Run("sox", ["-n", "-R", "-r", "48000", "-b", "24", "-c", $"{channels}", path, .. effects.Split(' ', StringSplitOptions.RemoveEmptyEntries)]);
        using var reader = WaveReader.Open(path).Value!;
        var levels = FileLevels.Of(reader);
        var theirs = Ebur128.Of(path);

        // Its range counts windows that have not filled yet, so only these two are alike.
        Assert.Equal(theirs.Integrated, levels.Loudness.Integrated!.Value, 0.1);
        Assert.Equal(theirs.TruePeak, levels.TruePeaks.Max(p => p.Value), 0.2);
    }
}

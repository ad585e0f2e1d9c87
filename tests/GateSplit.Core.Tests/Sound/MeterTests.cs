using CsCheck;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

public sealed class MeterTests
{
    [Fact]
    public void A_full_scale_sine_reads_0_peak_and_minus_3_01_rms()
    {
        var levels = Measure(Enumerable.Range(0, 48000).Select(i => (float)Math.Sin(2 * Math.PI * 1000 * i / 48000)));
        Assert.Equal(0, levels.SamplePeak.Value, 0.001);
        Assert.Equal(-3.01, levels.Rms.Value, 0.01);
        Assert.Equal(0, levels.DcOffset, 1e-9);
        Assert.Equal(0, levels.ClippedRuns); // one or two samples at the crest are no clip

        // 1,000 times a second the sine reaches 1 and -1, each with one sample.
        Assert.Equal(2000, levels.FullScale.Count);
    }

    [Fact]
    public void Dc_is_the_mean()
    {
        Assert.Equal(0.125, Measure(Enumerable.Range(0, 1000).Select(i => i % 2 == 0 ? 0.5f : -0.25f)).DcOffset, 1e-12);
    }

    [Fact]
    public void Clips_are_runs_of_three_or_more()
    {
        const float full = 32767f / 32768f;
        var samples = new float[100];
        foreach (var i in new[] { 5, 6, 20, 21, 22, 97, 98, 99 })
        {
            samples[i] = i == 21 ? -1f : full;
        }

        var levels = Measure(samples);
        Assert.Equal(2, levels.ClippedRuns);
        Assert.Equal([new ClipRun(20, 3), new ClipRun(97, 3)], levels.Runs);
        Assert.Equal(2, levels.FullScale.Count); // 5 and 6 are no run
    }

    [Theory]
    [InlineData(32766f / 32768f, 0)]
    [InlineData(32767f / 32768f, 1)]
    [InlineData(-32767f / 32768f, 1)]
    [InlineData(-1f, 1)]
    [InlineData(1.5f, 1)]
    public void A_single_sample_at_full_scale_is_counted_and_is_no_clip(float sample, long count)
    {
        var levels = Measure([.. new float[17], sample]);
        Assert.Equal((count, 0), (levels.FullScale.Count, levels.ClippedRuns));
    }

    [Theory]
    [InlineData(-79.9, false)]
    [InlineData(-80.1, true)]
    public void Silent_is_below_minus_80(double peakDb, bool silent)
    {
        Assert.Equal(silent, Measure([0, (float)new Decibels(peakDb).Ratio, 0]).Silent);
    }

    [Fact]
    public void Nothing_at_all_is_silence()
    {
        var levels = Measure(new float[10]);
        Assert.Equal(Decibels.Silence, levels.SamplePeak);
        Assert.True(levels.Silent);
    }

    [Fact]
    public void The_result_does_not_depend_on_the_blocks()
    {
        var samples = Enumerable.Range(0, 5000).Select(i => (float)(Math.Sin(i * 0.7) * 1.2)).Select(x => Math.Clamp(x, -1, 1)).ToArray();
        var whole = Measure(samples);
        Gen.Int[1, 700].Array[1, 40].Sample(sizes =>
        {
            var meter = new ChannelMeter();
            var at = 0;
            for (var i = 0; at < samples.Length; i++)
            {
                var size = Math.Min(sizes[i % sizes.Length], samples.Length - at);
                meter.Add(samples.AsSpan(at, size));
                at += size;
            }

            var levels = meter.Result();
            return levels.SamplePeak == whole.SamplePeak && levels.Rms == whole.Rms && levels.DcOffset == whole.DcOffset
                && levels.Runs.SequenceEqual(whole.Runs) && levels.FullScale == whole.FullScale;
        });
    }

    [Fact]
    public void The_overview_holds_the_lowest_and_highest_sample_of_every_stretch()
    {
        var random = new Random(4);
        var samples = Enumerable.Range(0, 700_001).Select(_ => (float)(random.NextDouble() * 1.8 - 0.9)).ToArray();
        var builder = new OverviewBuilder(1);
        foreach (var block in samples.Chunk(4099))
        {
            builder.Add(0, block);
        }

        var overview = Overview.FromBytes(builder.Build().ToBytes());
        Assert.Equal(700_001, overview.Frames);
        Assert.Equal(1024, overview.BinFrames(1));
        var frames = overview.BinFrames(1) * 100;
        var columns = overview.Columns(0, 0, frames, 100);
        for (var i = 0; i < 100; i++)
        {
            var stretch = samples.AsSpan(i * 1024, 1024).ToArray();
            Assert.Equal(stretch.Max(), columns[i].High, 1e-4);
            Assert.Equal(stretch.Min(), columns[i].Low, 1e-4);
        }
    }

    [Theory]
    [InlineData(2, 131_071L * 256, 256)]
    [InlineData(2, 131_071L * 256 + 1, 512)]
    [InlineData(16, 16_384L * 256, 256)]
    [InlineData(17, 16_383L * 256, 256)]
    [InlineData(17, 16_383L * 256 + 1, 512)]
    [InlineData(17, 16_384L * 512, 1024)]
    [InlineData(2, 120_000_001L, 1024)]
    public void The_overview_of_a_long_file_is_no_larger_and_loses_no_peak(int channels, long frames, int binFrames)
    {
        var builder = new OverviewBuilder(channels);
        var block = new float[65_536];
        for (long at = 0; at < frames; at += block.Length)
        {
            Array.Clear(block);
            if (frames / 2 >= at && frames / 2 < at + block.Length)
            {
                block[frames / 2 - at] = 0.75f;
            }

            var part = block.AsSpan(0, (int)Math.Min(block.Length, frames - at));
            for (var channel = 0; channel < channels; channel++)
            {
                builder.Add(channel, part);
            }
        }

        var bytes = builder.Build().ToBytes();
        Assert.True(bytes.Length <= 16 + channels * 4 * (channels > 16 ? 16_384 : 131_072));
        var overview = Overview.FromBytes(bytes);
        Assert.Equal(binFrames, overview.BinFrames(0));
        var columns = overview.Columns(1, 0, new(frames), 1000);
        Assert.Equal(0.75f, columns[500].High, 1e-4);
        Assert.All(columns.Where((_, i) => Math.Abs(i - 500) > 1), c => Assert.Equal(0, c.High));
    }

    private static ChannelLevels Measure(IEnumerable<float> samples)
    {
        var meter = new ChannelMeter();
        meter.Add(samples.ToArray());
        return meter.Result();
    }
}

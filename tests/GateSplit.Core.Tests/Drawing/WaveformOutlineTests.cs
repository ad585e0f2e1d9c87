using GateSplit.Core.Drawing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Drawing;

public sealed class WaveformOutlineTests
{
    /// <summary>A recording of which only the length counts.</summary>
    private sealed record Silence(int Channels, int Length) : IRecording
    {
        public AudioFormat Format => new(Channels, 48000, SampleFormat.Pcm16);

        public Frames Frames => Length;

        public int Read(Frames startFrame, Span<byte> into) => 0;
    }

    [Fact]
    public void It_runs_along_the_highs_and_back_along_the_lows_one_channel_below_the_other()
    {
        var builder = new OverviewBuilder(2);
        builder.Add(0, Enumerable.Repeat(0.5f, 256).ToArray());
        builder.Add(0, Enumerable.Repeat(-1f, 256).ToArray());
        builder.Add(1, new float[512]);

        // Channel 1 around 1: highs 0.5 and 0, then back along the lows -1 and 0. Channel 2 is silent around 3.
        Assert.Equal("M0 0.5 1 1 1 2 0 1 ZM0 3 1 3 1 3 0 3 Z", WaveformOutline.Fill(new FileWaveform(builder.Build(), new Silence(2, 512)), 0, 512, 2));
    }

    [Theory]
    [InlineData(0, 12)]
    [InlineData(3.7, 1200)]
    [InlineData(-2.5, 1000)] // from before the first sample
    [InlineData(100.25, 333)]
    public void From_near_each_sample_stands_where_it_is(double start, int columns)
    {
        var random = new Random(11);
        var drawn = new Drawn(2, [.. Enumerable.Range(0, 400).Select(i => i switch { 0 => 0f, 1 => 1f, 2 => -1f, 3 => 0.0004f, 4 => -0.0006f, 5 => 0.5f, 6 => 0.999f, _ => (float)(2 * random.NextDouble() - 1) })]);
        const double Shown = 110.5;
        var (line, dots) = WaveformOutline.Line(drawn, start, Shown, columns);
        var numbers = line.Split(['M', ' '], StringSplitOptions.RemoveEmptyEntries);
        var count = (int)Math.Ceiling(Shown) + 2;
        Assert.Equal(2 * 2 * count, numbers.Length);
        for (var i = 0; i < 2 * count; i++)
        {
            var (channel, sample) = (i / count, i % count + (long)Math.Floor(start));
            var y = 1 + 2 * channel - drawn.At(channel, sample);
            Near((sample - start) / Shown * columns, numbers[2 * i], 2);
            Near(y, numbers[2 * i + 1], 3);
        }

        Assert.Equal(columns / Shown >= 6, dots.Length > 0);
        Assert.DoesNotContain("M-0 ", line, StringComparison.Ordinal);

        // As the format "0.##" writes it, but where the last decimal hangs on the last bit.
        static void Near(double number, string text, int decimals)
        {
            Assert.Equal(number, double.Parse(text, System.Globalization.CultureInfo.InvariantCulture), 0.5 * Math.Pow(10, -decimals) + 1e-9);
            Assert.Equal(double.Parse(text, System.Globalization.CultureInfo.InvariantCulture).ToString(decimals == 2 ? "0.##" : "0.###", System.Globalization.CultureInfo.InvariantCulture), text);
        }
    }

    /// <summary>A wave of so many channels, each the one before upside down, with nothing around it.</summary>
    private sealed class Drawn(int channels, float[] samples) : IWaveform
    {
        public int Channels => channels;

        public Frames Frames => samples.Length;

        public double At(int channel, long sample) => sample < 0 || sample >= samples.Length ? 0 : channel % 2 == 0 ? samples[sample] : -samples[sample];

        public (float Low, float High)[] Columns(int channel, double start, double frames, int columns) => throw new NotSupportedException();

        public void Samples(int channel, long start, Span<float> into)
        {
            for (var i = 0; i < into.Length; i++)
            {
                into[i] = (float)At(channel, start + i);
            }
        }
    }
}

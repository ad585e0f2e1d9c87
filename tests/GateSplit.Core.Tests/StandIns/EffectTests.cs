using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

/// <summary>The effects do what their formulas say, computed here sample by sample.</summary>
public sealed class EffectTests
{
    private const int Rate = 48000;

    [Theory]
    [InlineData(1)]
    [InlineData(700)]
    [InlineData(20000)]
    public void Echoes_change_sides_and_fall_by_60_dB_in_the_wanted_time(int block)
    {
        const double seconds = 0.1;
        var echo = new Echo(seconds, decaySeconds: 1, Rate);
        float[] left = new float[60000], right = new float[60000], outLeft = new float[60000], outRight = new float[60000];
        left[5] = 1;
        for (var at = 0; at < left.Length; at += block)
        {
            var n = Math.Min(block, left.Length - at);
            echo.Process(left.AsSpan(at, n), right.AsSpan(at, n), outLeft.AsSpan(at, n), outRight.AsSpan(at, n));
        }

        // One echo every 4800 frames, -6 dB each, so that ten of them make -60.
        for (var i = 0; i < left.Length; i++)
        {
            var number = (i - 5) / 4800;
            var expected = i > 5 && (i - 5) % 4800 == 0 ? Math.Pow(10, -6.0 * (number - 1) / 20) : 0;
            Assert.Equal(number % 2 == 1 ? expected : 0, outLeft[i], 1e-6);
            Assert.Equal(number % 2 == 0 ? expected : 0, outRight[i], 1e-6);
        }
    }

    [Theory]
    [InlineData(7)]
    [InlineData(300)]
    [InlineData(9000)]
    public void A_reverb_is_its_network_worked_out_one_sample_after_the_other(int block)
    {
        const double decaySeconds = 1.5;
        const int frames = 9000;
        var random = new Random(1);
        var left = Enumerable.Range(0, frames).Select(i => i < 2000 ? (float)random.NextDouble() - 0.5f : 0).ToArray();
        var right = Enumerable.Range(0, frames).Select(i => i == 100 ? 1f : 0).ToArray();
        float[] outLeft = new float[frames], outRight = new float[frames];
        var reverb = new Reverb(decaySeconds, Rate);
        for (var at = 0; at < frames; at += block)
        {
            var n = Math.Min(block, frames - at);
            reverb.Process(left.AsSpan(at, n), right.AsSpan(at, n), outLeft.AsSpan(at, n), outRight.AsSpan(at, n));
        }

        int[] delays = [1425, 1589, 1819, 1983, 2289, 2587, 2847, 3221]; // 29.7, 33.1 ... ms, made odd
        var written = delays.Select(_ => new double[frames]).ToArray();
        double Tap(int line, int i) => i >= delays[line] ? written[line][i - delays[line]] : 0;
        for (var i = 0; i < frames; i++)
        {
            // A Hadamard matrix of eight: plus or minus by the ones that two numbers share.
            double Fed(int line) => Enumerable.Range(0, 8).Sum(from =>
                (int.PopCount(line & from) % 2 == 0 ? 1 : -1) / Math.Sqrt(8)
                * Math.Pow(10, -3 * delays[from] / (decaySeconds * Rate)) * (0.78 * Tap(from, i) + 0.22 * Tap(from, i - 1)));
            for (var line = 0; line < 8; line++)
            {
                written[line][i] = Fed(line) + 0.5 * (line % 2 == 0 ? left[i] : right[i]);
            }

            Assert.Equal(0.6 * (Tap(0, i) + Tap(2, i) + Tap(4, i) + Tap(6, i)), outLeft[i], 1e-5);
            Assert.Equal(0.6 * (Tap(1, i) + Tap(3, i) + Tap(5, i) + Tap(7, i)), outRight[i], 1e-5);
        }
    }

    [Theory]
    [InlineData(1, 0)]
    [InlineData(2, -6)]
    [InlineData(4, -9)]
    public void A_steady_sound_12_dB_above_the_threshold_is_turned_down_by_the_ratio(int ratio, double changeDb)
    {
        var master = new Master(new MasterPatch { ThresholdDb = new Decibels(-18), Ratio = ratio }, Rate);
        var level = (float)Math.Pow(10, -6 / 20.0);
        var left = Enumerable.Range(0, Rate).Select(i => i % 2 == 0 ? level : -level).ToArray();
        var right = left.Select(s => s / 2).ToArray();
        master.Process(left, right);
        Assert.Equal(-6 + changeDb, Decibels.FromRatio(Math.Abs(left[^1])).Value, 0.05);
        Assert.Equal(-12.02 + changeDb, Decibels.FromRatio(Math.Abs(right[^1])).Value, 0.05); // both sides alike
    }

    [Fact]
    public void Below_its_threshold_a_compressor_changes_nothing()
    {
        var samples = Enumerable.Range(0, 9000).Select(i => (float)(0.1 * Math.Sin(i * 0.05))).ToArray();
        var left = samples.ToArray();
        new Master(new MasterPatch { ThresholdDb = new Decibels(-18), Ratio = 4 }, Rate).Process(left, samples.ToArray());
        Assert.Equal(samples, left);
    }

    [Fact]
    public void The_filter_of_a_master_falls_by_3_dB_at_its_frequency()
    {
        var left = Enumerable.Range(0, Rate).Select(i => (float)Math.Sin(2 * Math.PI * 1000 * i / Rate)).ToArray();
        new Master(new MasterPatch { LowPassHz = 1000 }, Rate).Process(left, left);
        Assert.Equal(-3.01, Decibels.FromRatio(left[4800..].Max()).Value, 0.05);
    }

    [Fact]
    public void A_crusher_holds_samples_and_leaves_as_many_levels_as_its_bits_have()
    {
        var samples = Enumerable.Range(0, 4800).Select(i => (float)Math.Sin(i * 0.01)).ToArray();
        var crushed = samples.ToArray();
        new Crusher(new InsertPatch("Grain") { HoldHz = 12000, Bits = 4 }, Rate).Process(crushed);
        for (var i = 0; i < samples.Length; i++)
        {
            Assert.Equal(MathF.Round(samples[i / 4 * 4] * 8) / 8, crushed[i]); // one in four is taken, eight levels a side
        }
    }
}

using System.Runtime.Intrinsics;

namespace GateSplit.Core.Sound;

/// <summary>
/// The K-weighting of ITU-R BS.1770 for one channel: a shelf for the head and a high-pass behind it. The standard gives coefficients at 48 kHz;
/// those of other rates are the same analogue filters mapped by the bilinear transform (frequency, gain and quality after B. De Man,
/// "Evaluation of implementations of the EBU R128 loudness measurement").
/// </summary>
internal sealed class KWeighting
{
    private const double Shelf = 1681.974450955533; // Hz
    private const double ShelfGain = 3.999843853973347; // dB
    private const double ShelfQuality = 0.7071752369554196;
    private const double ShelfMiddle = 0.4996667741545416; // the exponent that gives the gain at the corner
    private const double HighPass = 38.13547087602444; // Hz
    private const double HighPassQuality = 0.5003270373238773;
    private const double Denormal = 1e-30;
    private const int Together = 4;
    private readonly Vector256<double>[] _hears; // what each of four samples, and each number of the state, gives of the four weighted ones
    private readonly Vector256<double>[] _keeps; // and of the state behind them
    private readonly double _highA1;
    private readonly double _highA2;
    private double _low1;
    private double _low2;
    private double _high1;
    private double _high2;

    /// <summary>Works the coefficients out.</summary>
    /// <param name="rate">Frames a second.</param>
    public KWeighting(double rate)
    {
        var k = Math.Tan(Math.PI * Shelf / rate);
        var top = Math.Pow(10, ShelfGain / 20);
        var middle = Math.Pow(top, ShelfMiddle);
        var a0 = 1 + k / ShelfQuality + k * k;
        ShelfB = ((top + middle * k / ShelfQuality + k * k) / a0, 2 * (k * k - top) / a0, (top - middle * k / ShelfQuality + k * k) / a0);
        ShelfA = (2 * (k * k - 1) / a0, (1 - k / ShelfQuality + k * k) / a0);
        k = Math.Tan(Math.PI * HighPass / rate);
        a0 = 1 + k / HighPassQuality + k * k;
        (_highA1, _highA2) = (2 * (k * k - 1) / a0, (1 - k / HighPassQuality + k * k) / a0);
        (_hears, _keeps) = FourAtOnce();
    }

    /// <summary>Feed-forward coefficients of the shelf.</summary>
    public (double B0, double B1, double B2) ShelfB { get; }

    /// <summary>Feedback coefficients of the shelf.</summary>
    public (double A1, double A2) ShelfA { get; }

    /// <summary>Feedback coefficients of the high-pass, whose feed-forward ones are 1, -2, 1.</summary>
    public (double A1, double A2) HighPassA => (_highA1, _highA2);

    /// <summary>Weighs the next samples.</summary>
    /// <returns>The sum of their squares.</returns>
    public double Energy(ReadOnlySpan<float> samples)
    {
        var (sum, at) = (0.0, 0);
        var (state, squares) = (Vector256.Create(_low1, _low2, _high1, _high2), Vector256<double>.Zero);
        for (; at + Together <= samples.Length; at += Together)
        {
            Vector256<double> a = Vector256.Create((double)samples[at]), b = Vector256.Create((double)samples[at + 1]), c = Vector256.Create((double)samples[at + 2]), d = Vector256.Create((double)samples[at + 3]);
            var (s0, s1, s2, s3) = (Vector256.Shuffle(state, Vector256.Create(0L, 0, 0, 0)), Vector256.Shuffle(state, Vector256.Create(1L, 1, 1, 1)), Vector256.Shuffle(state, Vector256.Create(2L, 2, 2, 2)), Vector256.Shuffle(state, Vector256.Create(3L, 3, 3, 3)));
            var heard = a * _hears[0] + b * _hears[1] + (c * _hears[2] + d * _hears[3]) + (s0 * _hears[4] + s1 * _hears[5] + (s2 * _hears[6] + s3 * _hears[7]));
            var fed = a * _keeps[0] + b * _keeps[1] + (c * _keeps[2] + d * _keeps[3]);
            state = Vector256.FusedMultiplyAdd(s0, _keeps[4], Vector256.FusedMultiplyAdd(s1, _keeps[5], fed)) + Vector256.FusedMultiplyAdd(s2, _keeps[6], s3 * _keeps[7]);
            squares = Vector256.FusedMultiplyAdd(heard, heard, squares);
        }

        var (low1, low2, high1, high2) = (state[0], state[1], state[2], state[3]);
        for (; at < samples.Length; at++)
        {
            var weighted = Step(samples[at], ref low1, ref low2, ref high1, ref high2);
            sum += weighted * weighted;
        }

        // What rings on in silence would become numbers too small to reckon with quickly.
        (_low1, _low2, _high1, _high2) = (Flushed(low1), Flushed(low2), Flushed(high1), Flushed(high2));
        return sum + Vector256.Sum(squares);
    }

    private double Step(double x, ref double low1, ref double low2, ref double high1, ref double high2)
    {
        var (b0, b1, b2) = ShelfB;
        var (a1, a2) = ShelfA;
        var shelved = b0 * x + low1;
        low1 = b1 * x - a1 * shelved + low2;
        low2 = b2 * x - a2 * shelved;
        var weighted = shelved + high1;
        high1 = high2 - 2 * shelved - _highA1 * weighted;
        high2 = shelved - _highA2 * weighted;
        return weighted;
    }

    /// <summary>
    /// Both filters are linear, so four samples at once are what each of them, and each number of the state before them, would give alone: its
    /// four weighted samples, and the state behind them.
    /// </summary>
    private (Vector256<double>[] Hears, Vector256<double>[] Keeps) FourAtOnce()
    {
        var (hears, keeps) = (new Vector256<double>[2 * Together], new Vector256<double>[2 * Together]);
        for (var alone = 0; alone < 2 * Together; alone++)
        {
            double Of(int place) => alone == place ? 1 : 0;
            var (low1, low2, high1, high2) = (Of(Together), Of(Together + 1), Of(Together + 2), Of(Together + 3));
            for (var i = 0; i < Together; i++)
            {
                hears[alone] = hears[alone].WithElement(i, Step(Of(i), ref low1, ref low2, ref high1, ref high2));
            }

            keeps[alone] = Vector256.Create(low1, low2, high1, high2);
        }

        return (hears, keeps);
    }

    private static double Flushed(double state) => Math.Abs(state) < Denormal ? 0 : state;
}

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
        var (b0, b1, b2) = ShelfB;
        var (a1, a2) = ShelfA;
        var (low1, low2, high1, high2, sum) = (_low1, _low2, _high1, _high2, 0.0);
        foreach (var sample in samples)
        {
            double x = sample;
            var shelved = b0 * x + low1;
            low1 = b1 * x - a1 * shelved + low2;
            low2 = b2 * x - a2 * shelved;
            var weighted = shelved + high1;
            high1 = high2 - 2 * shelved - _highA1 * weighted;
            high2 = shelved - _highA2 * weighted;
            sum += weighted * weighted;
        }

        // What rings on in silence would become numbers too small to reckon with quickly.
        (_low1, _low2, _high1, _high2) = (Flushed(low1), Flushed(low2), Flushed(high1), Flushed(high2));
        return sum;
    }

    private static double Flushed(double state) => Math.Abs(state) < Denormal ? 0 : state;
}

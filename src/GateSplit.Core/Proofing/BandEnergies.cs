using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Proofing;

/// <summary>The energy of a sound in eight bands, millisecond by millisecond: one band-pass in each lane of a vector.</summary>
internal sealed class BandEnergies
{
    /// <summary>How many bands.</summary>
    public const int Bands = 8;

    private const double Quality = 1.2; // neighbours meet about 3 dB down
    private const double Highest = 0.42; // of the sample rate
    private static readonly double[] Centres = [70, 160, 350, 750, 1600, 3400, 7000, 12000];
    private static readonly Vector256<float> Small = Vector256.Create(1e-18f);
    private readonly Vector256<float> _b0;
    private readonly Vector256<float> _a1;
    private readonly Vector256<float> _a2;
    private Vector256<float> _s1;
    private Vector256<float> _s2;
    private Vector256<float> _t1;
    private Vector256<float> _t2;

    /// <summary>Works the filters out (R. Bristow-Johnson, "Cookbook formulae for audio EQ biquad filter coefficients", band-pass of 0 dB).</summary>
    public BandEnergies(SampleRate rate)
    {
        var (b0, a1, a2) = (new float[Bands], new float[Bands], new float[Bands]);
        for (var band = 0; band < Bands; band++)
        {
            var w = 2 * Math.PI * Math.Min(Centres[band] / rate.Hz, Highest);
            var alpha = Math.Sin(w) / (2 * Quality);
            (b0[band], a1[band], a2[band]) = ((float)(alpha / (1 + alpha)), (float)(-2 * Math.Cos(w) / (1 + alpha)), (float)((1 - alpha) / (1 + alpha)));
        }

        (_b0, _a1, _a2) = (Vector256.Create(b0), Vector256.Create(a1), Vector256.Create(a2));
    }

    /// <summary>Takes a stretch in.</summary>
    /// <returns>The mean square of each band in it.</returns>
    public Vector256<float> Add(ReadOnlySpan<float> samples)
    {
        var (s1, s2, t1, t2, sum) = (_s1, _s2, _t1, _t2, Vector256<float>.Zero);
        foreach (var sample in samples)
        {
            var x = _b0 * sample;
            var y = x + s1;
            s1 = s2 - _a1 * y;
            s2 = -x - _a2 * y;

            // Twice the same, or a low drum would be heard in the bands of cymbals.
            var x2 = _b0 * y;
            var y2 = x2 + t1;
            t1 = t2 - _a1 * y2;
            t2 = -x2 - _a2 * y2;
            sum += y2 * y2;
        }

        // What rings on in silence would become numbers too small to reckon with quickly.
        (_s1, _s2, _t1, _t2) = (Flushed(s1), Flushed(s2), Flushed(t1), Flushed(t2));
        return sum / Math.Max(1, samples.Length);
    }

    private static Vector256<float> Flushed(Vector256<float> state) => state & Vector256.GreaterThan(Vector256.Abs(state), Small);
}

using System.Numerics;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// Where one sound lies in another: the cross-correlation with phase transform (Knapp and Carter, "The generalized correlation method for
/// estimation of time delay"), its peak found between samples by a parabola.
/// </summary>
internal static class CrossCorrelation
{
    /// <summary>Bins that hold less than this share of the mean count less than their phase alone would: there is only noise in them.</summary>
    private const double Quiet = 0.002;

    /// <summary>Lags on either side of the peak that belong to it, at 48 kHz: at twice the rate a sound of the same frequencies has a peak twice as wide.</summary>
    private const int Own = 8;

    /// <summary>Looks for a sound.</summary>
    /// <param name="sound">What is looked for; its ends should be faded.</param>
    /// <param name="within">Where, longer by the number of lags less one.</param>
    /// <param name="rate">The sample rate.</param>
    public static Peak Find(ReadOnlySpan<float> sound, ReadOnlySpan<float> within, SampleRate rate) => PeakOf(Lags(sound, within, whitened: true), rate);

    /// <summary>Correlates a sound with each place it may lie at.</summary>
    /// <param name="sound">What is looked for.</param>
    /// <param name="within">Where, longer by the number of lags less one.</param>
    /// <param name="whitened">True for the phase transform, false for the plain correlation.</param>
    /// <returns>A value for each lag, from the start of what is looked in.</returns>
    public static double[] Lags(ReadOnlySpan<float> sound, ReadOnlySpan<float> within, bool whitened = false)
    {
        var bins = Common(sound, within);
        if (whitened)
        {
            Whiten(bins);
        }

        return RealFourier.Back(bins, within.Length - sound.Length + 1);
    }

    /// <summary>As <see cref="Lags"/>, both ways.</summary>
    public static (double[] Plain, double[] Whitened) BothLags(ReadOnlySpan<float> sound, ReadOnlySpan<float> within)
    {
        var (bins, lags) = (Common(sound, within), within.Length - sound.Length + 1);
        var plain = RealFourier.Back(bins, lags);
        Whiten(bins);
        return (plain, RealFourier.Back(bins, lags));
    }

    private static Complex[] Common(ReadOnlySpan<float> sound, ReadOnlySpan<float> within)
    {
        var size = (int)BitOperations.RoundUpToPowerOf2((uint)within.Length);
        var (one, other) = (RealFourier.Forward(sound, size), RealFourier.Forward(within, size));
        for (var i = 0; i < size; i++)
        {
            one[i] = Complex.Conjugate(one[i]) * other[i];
        }

        return one;
    }

    /// <summary>Leaves of each bin little but its phase.</summary>
    /// <param name="bins">A cross-spectrum; changed.</param>
    public static void Whiten(Complex[] bins)
    {
        var mean = bins.Average(b => b.Magnitude);
        for (var i = 0; mean > 0 && i < bins.Length; i++)
        {
            bins[i] /= bins[i].Magnitude + Quiet * mean;
        }
    }

    /// <summary>How far from a value the top of the parabola through it and its neighbours lies, -0.5 to 0.5.</summary>
    public static double Between(ReadOnlySpan<double> values, int at)
    {
        if (at == 0 || at == values.Length - 1)
        {
            return 0;
        }

        var bend = values[at - 1] - 2 * values[at] + values[at + 1];
        return bend == 0 ? 0 : Math.Clamp((values[at - 1] - values[at + 1]) / (2 * bend), -0.5, 0.5);
    }

    /// <summary>The highest of some lags.</summary>
    /// <param name="values">A value for each.</param>
    /// <param name="rate">The sample rate.</param>
    public static Peak PeakOf(ReadOnlySpan<double> values, SampleRate rate)
    {
        var own = Own * Lasting.Frames(1, rate);
        var (best, squares) = (0, 0.0);
        for (var i = 0; i < values.Length; i++)
        {
            squares += values[i] * values[i];
            best = Math.Abs(values[i]) > Math.Abs(values[best]) ? i : best;
        }

        var top = values[best];
        var rms = Math.Sqrt(squares / values.Length);
        var next = 0.0;
        for (var i = 0; i < values.Length; i++)
        {
            next = Math.Abs(i - best) > own ? Math.Max(next, Math.Abs(values[i])) : next;
        }

        return new(best + Between(values, best), Math.Sign(top), rms == 0 ? 0 : Math.Abs(top) / rms, next == 0 ? double.PositiveInfinity : Math.Abs(top) / next);
    }

    /// <summary>The highest tops of a correlation, between samples.</summary>
    /// <param name="values">The correlation.</param>
    /// <param name="most">How many at most.</param>
    /// <param name="least">What share of the highest a top must have.</param>
    public static IEnumerable<(double Lag, double Share)> Tops(double[] values, int most, double least)
    {
        var highest = values.Max(Math.Abs);
        return Enumerable.Range(1, Math.Max(0, values.Length - 2))
            .Where(i => Math.Abs(values[i]) >= least * highest && Math.Abs(values[i]) >= Math.Abs(values[i - 1]) && Math.Abs(values[i]) > Math.Abs(values[i + 1]))
            .OrderByDescending(i => Math.Abs(values[i]))
            .Take(most)
            .Select(i => (i + Between(values, i), Math.Abs(values[i]) / highest));
    }

    /// <summary>The highest place of a correlation.</summary>
    /// <param name="Lag">Frames from the start of what was looked in.</param>
    /// <param name="Sign">-1 where the sound is upside down.</param>
    /// <param name="Clearness">How far it stands out: its height over the root mean square of all.</param>
    /// <param name="Lead">Its height over the highest of all others: near 1 for a tone, which fits again at each of its periods.</param>
    internal readonly record struct Peak(double Lag, int Sign, double Clearness, double Lead);
}

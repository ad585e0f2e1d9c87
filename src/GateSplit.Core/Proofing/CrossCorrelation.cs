using System.Numerics;
using MathNet.Numerics.IntegralTransforms;

namespace GateSplit.Core.Proofing;

/// <summary>
/// Where one sound lies in another: the cross-correlation with phase transform (Knapp and Carter, "The generalized correlation method for
/// estimation of time delay"), its peak found between samples by a parabola.
/// </summary>
internal static class CrossCorrelation
{
    /// <summary>Bins that hold less than this share of the mean count less than their phase alone would: there is only noise in them.</summary>
    private const double Quiet = 0.002;

    /// <summary>Lags on either side of the peak that belong to it.</summary>
    private const int Own = 8;

    /// <summary>Looks for a sound.</summary>
    /// <param name="sound">What is looked for; its ends should be faded.</param>
    /// <param name="within">Where, longer by the number of lags less one.</param>
    /// <param name="whitened">True for the phase transform, false for the plain correlation.</param>
    public static Peak Find(ReadOnlySpan<float> sound, ReadOnlySpan<float> within, bool whitened = true)
    {
        var lags = within.Length - sound.Length + 1;
        var size = (int)BitOperations.RoundUpToPowerOf2((uint)within.Length);
        var (one, other) = (new Complex[size], new Complex[size]);
        for (var i = 0; i < sound.Length; i++)
        {
            one[i] = sound[i];
        }

        for (var i = 0; i < within.Length; i++)
        {
            other[i] = within[i];
        }

        Fourier.Forward(one, FourierOptions.NoScaling);
        Fourier.Forward(other, FourierOptions.NoScaling);
        var mean = 0.0;
        for (var i = 0; i < size; i++)
        {
            one[i] = Complex.Conjugate(one[i]) * other[i];
            mean += one[i].Magnitude / size;
        }

        for (var i = 0; whitened && mean > 0 && i < size; i++)
        {
            one[i] /= one[i].Magnitude + Quiet * mean;
        }

        Fourier.Inverse(one, FourierOptions.NoScaling);
        return PeakOf(one.AsSpan(0, lags));
    }

    private static Peak PeakOf(ReadOnlySpan<Complex> values)
    {
        var (best, squares) = (0, 0.0);
        for (var i = 0; i < values.Length; i++)
        {
            squares += values[i].Real * values[i].Real;
            best = Math.Abs(values[i].Real) > Math.Abs(values[best].Real) ? i : best;
        }

        var top = values[best].Real;
        var rms = Math.Sqrt(squares / values.Length);
        var between = 0.0;
        if (best > 0 && best < values.Length - 1)
        {
            var (before, after) = (values[best - 1].Real, values[best + 1].Real);
            var bend = before - 2 * top + after;
            between = bend == 0 ? 0 : Math.Clamp((before - after) / (2 * bend), -0.5, 0.5);
        }

        var next = 0.0;
        for (var i = 0; i < values.Length; i++)
        {
            next = Math.Abs(i - best) > Own ? Math.Max(next, Math.Abs(values[i].Real)) : next;
        }

        return new(best + between, Math.Sign(top), rms == 0 ? 0 : Math.Abs(top) / rms, next == 0 ? double.PositiveInfinity : Math.Abs(top) / next);
    }

    /// <summary>The highest place of a correlation.</summary>
    /// <param name="Lag">Frames from the start of what was looked in.</param>
    /// <param name="Sign">-1 where the sound is upside down.</param>
    /// <param name="Clearness">How far it stands out: its height over the root mean square of all.</param>
    /// <param name="Lead">Its height over the highest of all others: near 1 for a tone, which fits again at each of its periods.</param>
    internal readonly record struct Peak(double Lag, int Sign, double Clearness, double Lead);
}

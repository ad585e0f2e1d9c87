using System.Collections.Concurrent;
using System.Numerics;
using MathNet.Numerics;
using MathNet.Numerics.IntegralTransforms;

namespace GateSplit.Core.Sound;

/// <summary>
/// The Fourier transform of real samples and back, by one of half as many complex numbers that hold two samples each (Press et al., "Numerical
/// Recipes", "FFT of real functions").
/// </summary>
internal static class RealFourier
{
    private static readonly ConcurrentDictionary<int, Complex[]> Turns = new();

    // Files are read on all cores at once: within one, threads that wait for each other take twice as long.
    static RealFourier() => Control.UseSingleThread();

    /// <summary>The spectrum of a stretch with silence behind it.</summary>
    /// <param name="samples">The stretch.</param>
    /// <param name="size">A power of two from 2 on, as long or longer.</param>
    /// <returns>All bins: those above the Nyquist frequency mirror those below it.</returns>
    public static Complex[] Forward(ReadOnlySpan<float> samples, int size)
    {
        var half = size / 2;
        var pairs = new Complex[half];
        for (var i = 0; 2 * i < samples.Length; i++)
        {
            pairs[i] = new(samples[2 * i], (2 * i) + 1 < samples.Length ? samples[(2 * i) + 1] : 0);
        }

        Fourier.Forward(pairs, FourierOptions.NoScaling);
        var (bins, turns) = (new Complex[size], TurnsOf(size));
        for (var bin = 1; bin < half; bin++)
        {
            var (own, mirrored) = (pairs[bin], Complex.Conjugate(pairs[half - bin]));
            var (even, odd) = (own + mirrored, own - mirrored);
            bins[bin] = 0.5 * (even + (new Complex(odd.Imaginary, -odd.Real) * turns[bin]));
            bins[size - bin] = Complex.Conjugate(bins[bin]);
        }

        bins[0] = pairs[0].Real + pairs[0].Imaginary;
        bins[half] = pairs[0].Real - pairs[0].Imaginary;
        return bins;
    }

    /// <summary>The samples that a spectrum stands for.</summary>
    /// <param name="bins">All bins, those above the Nyquist frequency the mirror of those below it; a power of two from 2 on.</param>
    /// <param name="count">How many samples are wanted.</param>
    public static double[] Back(Complex[] bins, int count)
    {
        var half = bins.Length / 2;
        var (pairs, turns) = (new Complex[half], TurnsOf(bins.Length));
        for (var bin = 0; bin < half; bin++)
        {
            var (even, odd) = (bins[bin] + bins[bin + half], (bins[bin] - bins[bin + half]) * Complex.Conjugate(turns[bin]));
            pairs[bin] = new(even.Real - odd.Imaginary, even.Imaginary + odd.Real);
        }

        Fourier.Inverse(pairs, FourierOptions.NoScaling);
        var samples = new double[count];
        for (var i = 0; i < count; i++)
        {
            samples[i] = (i % 2 == 0 ? pairs[i / 2].Real : pairs[i / 2].Imaginary) / bins.Length;
        }

        return samples;
    }

    /// <summary>By how much each bin turns from one sample to the next.</summary>
    private static Complex[] TurnsOf(int size) =>
        Turns.GetOrAdd(size, static of => [.. Enumerable.Range(0, of / 2).Select(bin => Complex.FromPolarCoordinates(1, -2 * Math.PI * bin / of))]);
}

using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>The spectrum of a whole recording, in bands of a twelfth of an octave: the mean of many windows spread over it (Welch's method, Hann's window).</summary>
public static class AverageSpectrum
{
    /// <summary>Bands in an octave.</summary>
    public const int BandsAnOctave = 12;

    private const int Window = 1 << 14; // frames at 48 kHz: 2.9 Hz a bin
    private const int MostWindows = 192;
    private const double Lowest = 20; // Hz
    private const double Highest = 20_000; // Hz

    /// <summary>Measures it.</summary>
    /// <param name="sound">The recording.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <returns>The middle of each band, with the level of all that is in it against full scale: a sine of full scale reads -3 dB in its band.</returns>
    public static ImmutableArray<(double Hertz, Decibels Level)> Of(IMonoSound sound, CancellationToken cancel = default)
    {
        var samples = new float[Lasting.Frames(Window, sound.Rate)];
        var power = new double[samples.Length / 2];
        var count = (int)Math.Clamp(2 * sound.Frames.Count / samples.Length, 1, MostWindows);
        for (var window = 0; window < count; window++)
        {
            cancel.ThrowIfCancellationRequested();
            sound.Read(count == 1 ? 0 : (sound.Frames.Count - samples.Length) * window / (count - 1), samples);
            Hann.Fade(samples);
            var bins = RealFourier.Forward(samples, samples.Length);
            for (var bin = 1; bin < power.Length; bin++)
            {
                power[bin] += bins[bin].Real * bins[bin].Real + bins[bin].Imaginary * bins[bin].Imaginary;
            }
        }

        // Hann's window lets 3/8 of the power through, and half of it lies above the Nyquist frequency.
        var scale = 2 / (0.375 * samples.Length * (double)samples.Length * count);
        var width = (double)sound.Rate.Hz / samples.Length;
        return
        [
            .. from band in Enumerable.Range(0, (int)(BandsAnOctave * Math.Log2(Highest / Lowest)) + 1)
               let middle = Lowest * Math.Pow(2, (double)band / BandsAnOctave)
               let low = middle * Math.Pow(2, -0.5 / BandsAnOctave)
               let high = middle * Math.Pow(2, 0.5 / BandsAnOctave)
               where high < sound.Rate.Hz / 2.0
               select (middle, Decibels.FromRatio(Math.Sqrt(scale * Between(power, low / width, high / width)))),
        ];
    }

    /// <summary>The power between two places, of which each bin fills the half before and behind it.</summary>
    private static double Between(double[] power, double from, double to)
    {
        var sum = 0.0;
        for (var bin = (int)Math.Round(from); bin <= (int)Math.Round(to) && bin < power.Length; bin++)
        {
            sum += power[bin] * Math.Max(0, Math.Min(to, bin + 0.5) - Math.Max(from, bin - 0.5));
        }

        return sum;
    }
}

using System.Numerics;

namespace GateSplit.Core.Proofing;

/// <summary>
/// The level at which all of an element is heard in another track, told by octaves from what is there of its beginning, behind a filter or in the clear:
/// another microphone colours a sound, so that of its beginning another share may be there than of the rest. In octaves in which it lies too deep under
/// other sounds nothing is told; it colours smoothly, so there it lets through what the octaves beside them let through.
/// </summary>
/// <param name="element">The energy of the element by bin, over all that is heard of it.</param>
/// <param name="own">The energy by bin that its own track gains at its hits.</param>
/// <param name="before">The energy by bin that was in the other track before them.</param>
/// <param name="hits">How many hits there are.</param>
/// <param name="rate">Frames a second.</param>
internal sealed class BandGains(double[] element, double[] own, double[] before, int hits, int rate)
{
    private const double Lowest = 100; // Hz: what is below is one band
    private const double Tells = 0.3; // of what was there before, over all hits

    /// <summary>What two filters let through: with one filter twice, what that one does.</summary>
    /// <param name="one">The spectrum of the one.</param>
    /// <param name="other">That of the other.</param>
    /// <returns>The energy behind them against that of the element, and what share of that is in octaves that tell it.</returns>
    public (double Level, double Known) Through(Complex[] one, Complex[] other) => Level(i => (one[i] * Complex.Conjugate(other[i])).Real * own[i]);

    /// <summary>What is there of it in the clear.</summary>
    /// <param name="gained">The energy by bin that the other track gains at its hits.</param>
    /// <returns>That against the energy of the element, and what share of it is in octaves that tell it.</returns>
    public (double Level, double Known) Of(double[] gained) => Level(i => gained[i]);

    private (double Level, double Known) Level(Func<int, double> there)
    {
        var bands = new List<(double Energy, double Gain, bool Tells)>();
        var nyquist = element.Length / 2;
        for (var (from, until) = (1, Bin(Lowest)); from < nyquist; (from, until) = (until, Math.Min(nyquist, 2 * until)))
        {
            var (energy, heard, passed, masked) = (0.0, 0.0, 0.0, 0.0);
            for (var i = from; i < until; i++)
            {
                energy += element[i];
                heard += own[i];
                passed += there(i);
                masked += before[i];
            }

            bands.Add((energy, heard > 0 ? passed / heard : 0, heard > 0 && passed > 0 && passed * hits > Tells * masked));
        }

        var known = Enumerable.Range(0, bands.Count).Where(b => bands[b].Tells).ToList();
        var all = bands.Sum(b => b.Energy);
        return (bands.Select((b, i) => b.Energy * (b.Tells || known.Count == 0 ? b.Gain : Beside(i))).Sum() / all, known.Sum(b => bands[b].Energy) / all);

        // Between two octaves that tell it in equal steps of dB, and outside as in the nearest.
        double Beside(int band)
        {
            var (lower, upper) = (known.FindLastIndex(b => b < band), known.FindIndex(b => b > band));
            if (lower < 0 || upper < 0)
            {
                return bands[known[Math.Max(lower, upper)]].Gain;
            }

            var (low, high) = (known[lower], known[upper]);
            return bands[low].Gain * Math.Pow(bands[high].Gain / bands[low].Gain, (double)(band - low) / (high - low));
        }
    }

    private int Bin(double frequency) => Math.Max(1, (int)Math.Round(frequency * element.Length / rate));
}

using System.Collections.Immutable;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// What an element sounds like: the share of each band of the energy of a hit, in its first 10, the next 50, and the next 200 ms. Kept from a
/// roll call, it tells what a track holds where no notes do.
/// </summary>
internal static class Signature
{
    private static readonly (double From, double Until)[] Stretches = [(0, 0.01), (0.01, 0.06), (0.06, 0.26)];

    /// <summary>Of one hit.</summary>
    /// <param name="sound">Where it is heard.</param>
    /// <param name="at">When it begins, in seconds.</param>
    /// <returns>Empty where nothing is heard.</returns>
    public static ImmutableArray<double> Of(IMonoSound sound, double at) => Of(sound, [at]);

    /// <summary>The mean of several hits, each counting alike.</summary>
    /// <param name="sound">Where they are heard.</param>
    /// <param name="hits">When they begin, in seconds.</param>
    /// <returns>Empty where nothing is heard.</returns>
    public static ImmutableArray<double> Of(IMonoSound sound, IEnumerable<double> hits)
    {
        var mean = new double[Stretches.Length * BandEnergies.Bands];
        var count = 0;
        foreach (var shares in hits.Select(at => Energies(sound, at)))
        {
            if (shares.Sum() is > 0 and var all)
            {
                count++;
                for (var i = 0; i < mean.Length; i++)
                {
                    mean[i] += shares[i] / all;
                }
            }
        }

        return count == 0 ? [] : [.. mean.Select(m => m / count)];
    }

    /// <summary>How alike two are, 0 to 1 (the coefficient of Bhattacharyya).</summary>
    public static double Likeness(ImmutableArray<double> one, ImmutableArray<double> other) =>
        one.Length == other.Length ? one.Zip(other, (a, b) => Math.Sqrt(a * b)).Sum() : 0;

    private static double[] Energies(IMonoSound sound, double at)
    {
        var bank = new BandEnergies(sound.Rate);
        var energies = new List<double>();
        foreach (var (from, until) in Stretches)
        {
            var samples = new float[(int)((until - from) * sound.Rate.Hz)];
            sound.Read((long)((at + from) * sound.Rate.Hz), samples);
            var bands = bank.Add(samples);
            energies.AddRange(Enumerable.Range(0, BandEnergies.Bands).Select(b => bands[b] * (until - from)));
        }

        return [.. energies];
    }
}

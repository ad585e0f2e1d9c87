using System.Collections.Immutable;
using System.Numerics.Tensors;
using System.Runtime.Intrinsics;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>
/// Finds where sounds begin: the log of the energy in each band rises (band-wise energy flux; S. Dixon, "Onset detection revisited"). What lies
/// under the noise of a band does not count as rising.
/// </summary>
public static class Onsets
{
    private const int Hops = 1000; // a second
    private const int Back = 3; // hops a rise is measured over
    private const float Least = 0.5f; // octaves of energy, mean of all bands
    private const int Apart = 30; // hops
    private const float Silence = 1e-9f; // mean square: -90 dBFS
    private const float OverNoise = 3;
    private const float Masked = 3e-4f; // of the energy of the loudest band: what is 35 dB under it is its own skirt
    private static readonly Vector256<float> Share = Vector256.Create(0.12f, 0.12f, 0.12f, 0.12f, 0.3f, 0.3f, 0.3f, 0.3f); // of a new hop: 8 ms where swings are long, 3 ms above
    private const float FloorUp = 1.002f; // in a hop: doubles in a third of a second
    private const int Settling = 200; // hops in which the noise of a file is learned
    private const float FloorUpAtFirst = 1.07f;
    private const float FloorDown = 0.1f;
    private const double Before = 0.025; // s looked at before a rise, to see where it began
    private const double After = 0.02;
    private const double LeastRise = 1.25; // of energy: 1 dB
    private const double Start = 0.01; // s
    private const double StandsOut = 0.05; // of the strongest
    private const double Fine = 4000; // stretches a second
    private const int Swelling = 8; // of these: what is at half its height sooner is struck
    private const double HalfHigh = 0.25; // of the energy: half the level
    private const int BlockHops = 1000;

    /// <summary>Reads a file once.</summary>
    public static ImmutableArray<Onset> Of(IMonoSound sound, CancellationToken cancel = default)
    {
        var found = ImmutableArray.CreateBuilder<Onset>();
        foreach (var hop in Rises(sound, cancel))
        {
            if (Begun(sound, hop) is { } onset && (found.Count == 0 || onset.Seconds - found[^1].Seconds > (double)Apart / Hops / 2))
            {
                found.Add(onset);
            }
        }

        // Where a file begins, its noise begins.
        if (found.Count > 0 && found[0].Seconds < Start && found[0].Strength < StandsOut * found.Max(o => o.Strength))
        {
            found.RemoveAt(0);
        }

        return found.ToImmutable();
    }

    /// <summary>The hops at which the flux has its tops.</summary>
    private static IEnumerable<long> Rises(IMonoSound sound, CancellationToken cancel)
    {
        var rate = sound.Rate.Hz;
        var bank = new BandEnergies(sound.Rate);
        var levels = new Vector256<float>[Back];
        var (smooth, floor) = (Vector256<float>.Zero, Vector256.Create(Silence));
        var block = new float[(long)BlockHops * rate / Hops + 2];
        var total = sound.Frames.Count * Hops / rate;
        var (top, topAt) = (0f, -1L);
        for (var at = 0L; at < total; at += BlockHops)
        {
            cancel.ThrowIfCancellationRequested();
            var start = at * rate / Hops;
            sound.Read(start, block);
            for (var hop = at; hop < Math.Min(total, at + BlockHops); hop++)
            {
                var (first, end) = ((int)(hop * rate / Hops - start), (int)((hop + 1) * rate / Hops - start));
                smooth += Share * (bank.Add(block.AsSpan(first, end - first)) - smooth);
                floor = Vector256.ConditionalSelect(Vector256.LessThan(smooth, floor), floor + FloorDown * (smooth - floor), Vector256.Min(floor * (hop < Settling ? FloorUpAtFirst : FloorUp), smooth));
                var loudest = Math.Max(Highest(smooth.GetLower()), Highest(smooth.GetUpper()));
                var level = Vector256.Log2(smooth + OverNoise * floor + Vector256.Create(Silence + Masked * loudest));
                var flux = hop < Back ? 0 : Vector256.Sum(Vector256.Max(level - levels[hop % Back], Vector256<float>.Zero)) / BandEnergies.Bands;
                levels[hop % Back] = level;
                if (flux > Least && flux > top)
                {
                    (top, topAt) = (flux, hop);
                }

                if (topAt >= 0 && hop - topAt >= Apart)
                {
                    yield return topAt;
                    (top, topAt) = (0, -1);
                }
            }
        }

        if (topAt >= 0)
        {
            yield return topAt;
        }
    }

    private static float Highest(Vector128<float> four) => Math.Max(Math.Max(four[0], four[1]), Math.Max(four[2], four[3]));

    private static double Mean(float[] energies, int from, int until) => until <= from ? 0 : TensorPrimitives.Sum(energies.AsSpan(from, until - from)) / (until - from);

    /// <summary>Where before a rise the sound really begins: where its level first leaves what was there before.</summary>
    private static Onset? Begun(IMonoSound sound, long hop)
    {
        var rate = sound.Rate.Hz;
        var start = (long)((hop / (double)Hops - Before) * rate);
        var samples = new float[(int)((Before + After) * rate)];
        sound.Read(start, samples);
        var stretch = Math.Max(1, (int)(rate / Fine));
        var count = samples.Length / stretch;
        var energies = Enumerable.Range(0, count).Select(i => TensorPrimitives.SumOfSquares(samples.AsSpan(i * stretch, stretch)) / stretch).ToArray();
        var quiet = energies.Take(count / 9).Max();
        var loud = energies.Max();
        if (loud < Silence)
        {
            return null;
        }

        var first = Array.FindIndex(energies, e => e > 2 * quiet + 0.01 * loud);
        // What only swings on while it dies away is no beginning.
        var begun = Math.Max(0, first);
        var (before, after) = (Mean(energies, 0, begun), Mean(energies, begun, count));
        return after < LeastRise * before ? null : new((start + (begun - Earlier(energies, begun, loud)) * stretch) / rate, Math.Sqrt(after - before));
    }

    /// <summary>By how many stretches earlier a sound began than it was first heard: what swells is drawn back to nothing by a line through its level there and at half its height.</summary>
    private static double Earlier(float[] energies, int begun, double loud)
    {
        var quiet = Mean(energies, 0, begun);
        var high = Array.FindIndex(energies, begun, e => e >= HalfHigh * loud);
        var (low, half) = (Math.Sqrt(Math.Max(0, energies[begun] - quiet)), Math.Sqrt(Math.Max(0, energies[high] - quiet)));
        return high - begun < Swelling || low >= half ? 0 : Math.Min(begun, (high - begun) * low / (half - low));
    }
}

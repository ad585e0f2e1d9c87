using System.Numerics.Tensors;
using MathNet.Numerics.LinearAlgebra;

namespace GateSplit.Core.Proofing;

/// <summary>
/// Which tracks are upside down in a mix: the sign of the gain with which each leaves least of it, all tracks together (least squares). Asked of
/// the sounds as they are and of their first and second differences, in which the lows that many microphones share count less; where the
/// answer is clearest, it counts.
/// </summary>
internal static class MixSigns
{
    private const int Window = 1 << 13;
    private const int Orders = 3;
    private const double Ridge = 1e-9;
    private const double Tells = 0.1; // of what is left: by so much more would be left without the track

    /// <summary>Asks.</summary>
    /// <param name="mix">The mix.</param>
    /// <param name="tracks">The tracks in its time.</param>
    /// <param name="places">Where in it windows begin.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>For each track 1, -1, or null where it cannot be told.</returns>
    public static int?[] Of(Placed mix, IReadOnlyList<Placed> tracks, IReadOnlyList<long> places, CancellationToken cancel)
    {
        var count = tracks.Count;
        var rows = Enumerable.Range(0, count + 1).Select(_ => new float[Window]).ToArray();
        var sums = Enumerable.Range(0, Orders).Select(_ => new double[count + 1, count + 1]).ToArray();
        foreach (var place in places)
        {
            cancel.ThrowIfCancellationRequested();
            for (var track = 0; track <= count; track++)
            {
                (track == count ? mix : tracks[track]).Read(place, rows[track]);
            }

            for (var order = 0; order < Orders; order++)
            {
                for (var r = 0; r <= count; r++)
                {
                    for (var c = r; c <= count; c++)
                    {
                        sums[order][r, c] += TensorPrimitives.Dot<float>(rows[r].AsSpan(order), rows[c].AsSpan(order));
                    }
                }

                foreach (var row in rows)
                {
                    TensorPrimitives.Subtract<float>(row.AsSpan(1), [.. row.AsSpan(0, Window - 1)], row.AsSpan(1));
                }
            }
        }

        var best = new (double Clearness, int? Sign)[count];
        foreach (var sum in sums)
        {
            foreach (var (track, clearness, sign) in Solved(sum, count))
            {
                best[track] = clearness > Math.Max(Tells, best[track].Clearness) ? (clearness, sign) : best[track];
            }
        }

        return [.. best.Select(b => b.Sign)];
    }

    private static IEnumerable<(int Track, double Clearness, int Sign)> Solved(double[,] sums, int count)
    {
        var energy = sums[count, count];
        var heaviest = Enumerable.Range(0, count).Select(t => sums[t, t]).DefaultIfEmpty().Max();
        if (energy == 0 || heaviest == 0)
        {
            yield break;
        }

        var inverse = Matrix<double>.Build.Dense(count, count, (r, c) => (r <= c ? sums[r, c] : sums[c, r]) + (r == c ? Ridge * heaviest : 0)).Inverse();
        var wanted = Vector<double>.Build.Dense(count, t => sums[t, count]);
        var gains = inverse * wanted;
        var left = Math.Max(Ridge * energy, energy - gains * wanted);
        for (var track = 0; track < count; track++)
        {
            // Without a track, the rest would rise by its gain squared over its place in the inverse.
            yield return (track, gains[track] * gains[track] / inverse[track, track] / left, Math.Sign(gains[track]));
        }
    }
}

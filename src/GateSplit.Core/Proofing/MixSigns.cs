using System.Numerics.Tensors;
using GateSplit.Core.Sound;
using MathNet.Numerics.LinearAlgebra;

namespace GateSplit.Core.Proofing;

/// <summary>
/// Which tracks are upside down in a mix: the sign of the gain with which each leaves least of it, all tracks together. Asked of the sounds as
/// they are and of their first and second differences, in which the lows that many microphones share count less; where the answer is clearest, it
/// counts. What is in the mix and in no track sounds in some windows only, and these count the less, the more is left of them (iteratively
/// reweighted least squares).
/// </summary>
internal sealed class MixSigns
{
    private const int Window = 1 << 13; // frames at 48 kHz
    private const int Orders = 3;
    private const int Rounds = 8;
    private const double Ridge = 1e-9;
    private const double Least = 1e-6; // of the energy of a window, that is left of it at least
    private const double Tells = 0.3; // of what is left: by so much more would be left without the track
    private const double Opposes = 0.5; // of how clearly the clearest order tells it
    private readonly int _count;
    private readonly List<Matrix<double>> _windows = []; // what all tracks have in common with each other, and in the last row with the mix

    private MixSigns(int count) => _count = count;

    /// <summary>Asks.</summary>
    /// <param name="mix">The mix.</param>
    /// <param name="tracks">The tracks in its time.</param>
    /// <param name="places">Where in it windows begin.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>For each track what it is in the mix; and for each order how much all together leave of it: the mean logarithm of the share that is left of a window.</returns>
    public static (InMix[] Tracks, double[] Left) Of(Placed mix, IReadOnlyList<Placed> tracks, IReadOnlyList<long> places, CancellationToken cancel)
    {
        var count = tracks.Count;
        var (window, apart) = (Lasting.Frames(Window, mix.Rate), Lasting.Frames(1, mix.Rate));
        var rows = Enumerable.Range(0, count + 1).Select(_ => new float[window]).ToArray();
        var orders = Enumerable.Range(0, Orders).Select(_ => new MixSigns(count)).ToArray();
        foreach (var place in places)
        {
            cancel.ThrowIfCancellationRequested();
            for (var track = 0; track <= count; track++)
            {
                (track == count ? mix : tracks[track]).Read(place, rows[track]);
            }

            for (var order = 0; order < Orders; order++)
            {
                orders[order].Add(rows, order * apart);
                foreach (var row in rows)
                {
                    TensorPrimitives.Subtract<float>(row.AsSpan(apart), [.. row.AsSpan(0, window - apart)], row.AsSpan(apart));
                }
            }
        }

        var solved = orders.Where(o => o._windows.Count > 0 && count > 0).Select(o => o.Solved()).ToList();
        return (solved.Count == 0 ? new InMix[count] : [.. Enumerable.Range(0, count).Select(track => Told([.. solved.Select(s => s.Told[track])]))], [.. solved.Select(s => s.Left)]);
    }

    /// <summary>What all orders together tell of a track: nothing where one of them tells the opposite nearly as clearly as the clearest, for then it is something else that they hear.</summary>
    private static InMix Told(IReadOnlyList<(double Clearness, double Gain)> orders)
    {
        var clearest = orders.MaxBy(o => o.Clearness);
        return clearest.Clearness > Tells && orders.All(o => Math.Sign(o.Gain) == Math.Sign(clearest.Gain) || o.Clearness < Opposes * clearest.Clearness)
            ? new(Math.Sign(clearest.Gain), clearest.Clearness, orders[0].Gain)
            : new(null, 0, orders[0].Gain);
    }

    private void Add(float[][] rows, int from)
    {
        var window = Matrix<double>.Build.Dense(_count + 1, _count + 1);
        for (var r = 0; r <= _count; r++)
        {
            for (var c = r; c <= _count; c++)
            {
                window[r, c] = window[c, r] = TensorPrimitives.Dot<float>(rows[r].AsSpan(from), rows[c].AsSpan(from));
            }
        }

        if (window[_count, _count] > 0)
        {
            _windows.Add(window);
        }
    }

    private (List<(double Clearness, double Gain)> Told, double Left) Solved()
    {
        double[] weights = [.. _windows.Select(_ => 1.0)];
        var (gains, inverse, left) = Solved(weights);
        for (var round = 0; round < Rounds; round++)
        {
            weights = [.. _windows.Select(w => 1 / (LeftOf(w, gains) * w[_count, _count]))];
            (gains, inverse, left) = Solved(weights);
        }

        // Without a track, the rest would rise by its gain squared over its place in the inverse.
        return ([.. gains.Select((gain, track) => (gain * gain / inverse[track, track] / left, gain))], _windows.Average(w => Math.Log(LeftOf(w, gains))));
    }

    /// <summary>The share of the energy of a window that is left of it.</summary>
    private double LeftOf(Matrix<double> window, Vector<double> gains)
    {
        var all = Vector<double>.Build.Dense(_count + 1, i => i == _count ? -1 : gains[i]);
        return (Math.Max(0, all * (window * all)) / window[_count, _count]) + Least;
    }

    private (Vector<double> Gains, Matrix<double> Inverse, double Left) Solved(double[] weights)
    {
        var sum = Matrix<double>.Build.Dense(_count + 1, _count + 1);
        for (var i = 0; i < weights.Length; i++)
        {
            sum += weights[i] * _windows[i];
        }

        var (energy, heaviest) = (sum[_count, _count], sum.Diagonal().Maximum());
        var inverse = (sum.SubMatrix(0, _count, 0, _count) + Ridge * heaviest * Matrix<double>.Build.DenseIdentity(_count)).Inverse();
        var wanted = sum.Column(_count, 0, _count);
        var gains = inverse * wanted;
        return (gains, inverse, Math.Max(Ridge * energy, energy - gains * wanted));
    }
}

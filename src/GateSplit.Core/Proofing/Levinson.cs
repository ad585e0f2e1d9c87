namespace GateSplit.Core.Proofing;

/// <summary>Solves equations whose matrix is the same along its diagonals, as those of a filter are (N. Levinson, "The Wiener RMS error criterion in filter design and prediction", 1947).</summary>
internal static class Levinson
{
    /// <summary>Solves them.</summary>
    /// <param name="diagonals">The matrix: its diagonal and those beside it.</param>
    /// <param name="wanted">The right side, no longer.</param>
    /// <returns>Null where the matrix does not allow it.</returns>
    public static double[]? Solve(ReadOnlySpan<double> diagonals, ReadOnlySpan<double> wanted)
    {
        var count = wanted.Length;
        var (solved, forward, next) = (new double[count], new double[count], new double[count]);
        if (diagonals[0] <= 0)
        {
            return null;
        }

        forward[0] = 1 / diagonals[0];
        solved[0] = wanted[0] / diagonals[0];
        for (var n = 1; n < count; n++)
        {
            var (error, missing) = (0.0, wanted[n]);
            for (var i = 0; i < n; i++)
            {
                error += diagonals[n - i] * forward[i];
                missing -= diagonals[n - i] * solved[i];
            }

            var left = 1 - error * error;
            if (left <= 0)
            {
                return null;
            }

            // Of a symmetric matrix, the backward vector is the forward one turned round.
            for (var i = 0; i <= n; i++)
            {
                next[i] = ((i < n ? forward[i] : 0) - error * (i > 0 ? forward[n - i] : 0)) / left;
            }

            (forward, next) = (next, forward);
            for (var i = 0; i <= n; i++)
            {
                solved[i] += missing * forward[n - i];
            }
        }

        return Array.TrueForAll(solved, double.IsFinite) ? solved : null;
    }
}

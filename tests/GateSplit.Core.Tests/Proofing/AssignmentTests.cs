using GateSplit.Core.Proofing;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>The best pairing is as good as the best of all there are.</summary>
public sealed class AssignmentTests
{
    [Fact]
    public void It_is_as_good_as_brute_force()
    {
        var random = new Random(9);
        for (var round = 0; round < 400; round++)
        {
            var (rows, columns) = (1 + random.Next(5), 1 + random.Next(5));
            var gains = new double[rows, columns];
            for (var i = 0; i < rows * columns; i++)
            {
                gains[i / columns, i % columns] = random.Next(3) == 0 ? random.Next(3) : random.NextDouble();
            }

            var best = Assignment.Best(gains);
            var taken = best.OfType<int>().ToList();
            Assert.Equal(Math.Min(rows, columns), taken.Count);
            Assert.Equal(taken.Count, taken.Distinct().Count());
            Assert.Equal(Brute(gains, 0, []), best.Select((column, row) => column is { } c ? gains[row, c] : 0).Sum(), 1e-9);
        }
    }

    [Fact]
    public void Nothing_is_paired_with_nothing() => Assert.Equal([null, null], Assignment.Best(new double[2, 0]));

    private static double Brute(double[,] gains, int row, HashSet<int> taken)
    {
        if (row == gains.GetLength(0))
        {
            return 0;
        }

        // A row is left out only where there are more rows than columns.
        var best = gains.GetLength(0) > gains.GetLength(1) ? Brute(gains, row + 1, taken) : double.NegativeInfinity;
        for (var column = 0; column < gains.GetLength(1); column++)
        {
            if (taken.Add(column))
            {
                best = Math.Max(best, gains[row, column] + Brute(gains, row + 1, taken));
                taken.Remove(column);
            }
        }

        return best;
    }
}

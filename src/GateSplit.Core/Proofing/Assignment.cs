namespace GateSplit.Core.Proofing;

/// <summary>The best pairing of rows and columns: the Hungarian method in its form with potentials (Kuhn; Munkres; Jonker and Volgenant).</summary>
internal static class Assignment
{
    /// <summary>Pairs them.</summary>
    /// <param name="gains">What each pair is worth; any numbers, as many rows and columns as there are.</param>
    /// <returns>The column of each row; null where there are too few.</returns>
    public static int?[] Best(double[,] gains)
    {
        var (rows, columns) = (gains.GetLength(0), gains.GetLength(1));
        var size = Math.Max(rows, columns);
        double Cost(int row, int column) => row < rows && column < columns ? -gains[row, column] : 0;
        var (rowPotential, columnPotential, rowOf) = (new double[size + 1], new double[size + 1], new int[size + 1]);
        for (var row = 1; row <= size; row++)
        {
            var (least, cameFrom, done) = (Enumerable.Repeat(double.PositiveInfinity, size + 1).ToArray(), new int[size + 1], new bool[size + 1]);
            rowOf[0] = row;
            var column = 0;
            while (rowOf[column] != 0)
            {
                done[column] = true;
                var (step, next) = (double.PositiveInfinity, 0);
                for (var other = 1; other <= size; other++)
                {
                    if (done[other])
                    {
                        continue;
                    }

                    var cost = Cost(rowOf[column] - 1, other - 1) - rowPotential[rowOf[column]] - columnPotential[other];
                    if (cost < least[other])
                    {
                        (least[other], cameFrom[other]) = (cost, column);
                    }

                    if (least[other] < step)
                    {
                        (step, next) = (least[other], other);
                    }
                }

                for (var other = 0; other <= size; other++)
                {
                    if (done[other])
                    {
                        rowPotential[rowOf[other]] += step;
                        columnPotential[other] -= step;
                    }
                    else
                    {
                        least[other] -= step;
                    }
                }

                column = next;
            }

            for (; column != 0; column = cameFrom[column])
            {
                rowOf[column] = rowOf[cameFrom[column]];
            }
        }

        var best = new int?[rows];
        for (var column = 1; column <= columns; column++)
        {
            if (rowOf[column] <= rows)
            {
                best[rowOf[column] - 1] = column - 1;
            }
        }

        return best;
    }
}

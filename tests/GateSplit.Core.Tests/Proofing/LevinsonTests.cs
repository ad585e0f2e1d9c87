using GateSplit.Core.Proofing;
using MathNet.Numerics.LinearAlgebra;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Equations of filters are solved as a general solver solves them.</summary>
public sealed class LevinsonTests
{
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(7)]
    [InlineData(64)]
    public void As_a_general_solver_does(int size)
    {
        var random = new Random(size);
        var sound = Enumerable.Range(0, 500).Select(_ => random.NextDouble() - 0.5).ToArray();
        var diagonals = Enumerable.Range(0, size).Select(lag => Enumerable.Range(0, sound.Length - lag).Sum(i => sound[i] * sound[i + lag])).ToArray();
        var wanted = Enumerable.Range(0, size).Select(_ => random.NextDouble()).ToArray();
        var matrix = Matrix<double>.Build.Dense(size, size, (r, c) => diagonals[Math.Abs(r - c)]);
        var theirs = matrix.Solve(Vector<double>.Build.Dense(wanted));
        Assert.Equal(theirs, Levinson.Solve(diagonals, wanted)!, (a, b) => Math.Abs(a - b) < 1e-9);
    }

    [Fact]
    public void None_where_the_matrix_allows_none()
    {
        Assert.Null(Levinson.Solve([0], [1]));
        Assert.Null(Levinson.Solve([1, 2], [1, 1]));
    }
}

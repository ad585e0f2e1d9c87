using GateSplit.Core.Drawing;

namespace GateSplit.Core.Tests.Drawing;

public sealed class PlotAxisTests
{
    [Fact]
    public void Values_lie_between_its_ends_and_those_beyond_on_them()
    {
        var up = new PlotAxis(-60, 0, 150, 10);
        Assert.Equal([150, 80, 10, 150, 10], new double[] { -60, -30, 0, -99, 7 }.Select(up.At));
        var octaves = new PlotAxis(20, 20480, 0, 100, ByOctaves: true);
        Assert.Equal([0, 10, 50, 100], new double[] { 20, 40, 640, 20480 }.Select(v => Math.Round(octaves.At(v), 9)));
    }

    [Theory]
    [InlineData(0, 10, 6, new double[] { 0, 2, 4, 6, 8, 10 })]
    [InlineData(-0.04, 0.04, 6, new[] { -0.04, -0.02, 0, 0.02, 0.04 })]
    [InlineData(179.2, 180.1, 6, new[] { 179.2, 179.4, 179.6, 179.8, 180 })]
    [InlineData(3, 3.5, 2, new[] { 3, 3.5 })]
    public void Ticks_are_round_and_fit_in(double low, double high, int most, double[] ticks) =>
        Assert.Equal(ticks, new PlotAxis(low, high, 0, 1).Ticks(most).Select(t => Math.Round(t, 9) + 0.0));

    [Fact]
    public void Ticks_of_octaves_are_ones_twos_and_fives() =>
        Assert.Equal([20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000], new PlotAxis(20, 20000, 0, 1, ByOctaves: true).Ticks(8).Select(t => Math.Round(t)));

    [Fact]
    public void An_axis_around_values_holds_them_and_is_never_flat()
    {
        var around = PlotAxis.Around([2, 12], 1, 0, 100);
        Assert.Equal((1.2, 12.8), (Math.Round(around.Low, 9), Math.Round(around.High, 9)));
        var flat = PlotAxis.Around([5, 5], 1, 0, 100);
        Assert.Equal((4.5, 5.5), (flat.Low, flat.High));
        Assert.Equal(50, PlotAxis.Around([], 1, 0, 100).At(0));
    }
}

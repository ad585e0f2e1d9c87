using System.Numerics;
using GateSplit.Core.Proofing;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>The level behind a filter, worked out by hand: at 8192 bins and 48 kHz the octaves begin at bins 1, 17, 34, 68, 136, 272, 544, 1088 and 2176.</summary>
public sealed class BandGainsTests
{
    private const int Size = 8192;

    [Fact]
    public void Where_all_is_heard_it_is_what_the_filter_lets_through()
    {
        // Half of the energy above bin 2176, where a quarter comes through, half below 17, where all does.
        var (level, known) = Gains(element: i => i < 17 ? 1 / 16.0 : i >= 2176 ? 1 / 1920.0 : 0).Through(Filter(i => i < 1000 ? 1 : 0.5), Filter(i => i < 1000 ? 1 : 0.5));
        Assert.Equal((0.5 * 1) + (0.5 * 0.25), level, 1e-9);
        Assert.Equal(1, known, 1e-9);
    }

    [Fact]
    public void In_octaves_that_tell_nothing_it_is_as_in_those_beside_them()
    {
        // What lies below bin 68 and from 136 to 544 is far under what was there before.
        var gains = Gains(element: i => i is >= 1 and < 4096 ? 1 : 0, before: i => i < 68 || i is >= 136 and < 544 ? 1e6 : 1e-6);
        var (level, known) = gains.Through(Filter(Heard), Filter(Heard));

        // Below as in 68 to 136; between 136 and 544 in three equal steps of dB from 4 to 1/2.
        var expected = ((136 - 1) * 4) + ((272 - 136) * 2) + ((544 - 272) * 1) + ((1088 - 544) * 0.5) + ((4096 - 1088) * 0.5);
        Assert.Equal(expected / 4095, level, 1e-9);
        Assert.Equal((68 + (4096 - 544)) / 4095.0, known, 1e-9);

        static double Heard(int bin) => bin < 68 ? 9 : bin < 136 ? 2 : bin < 544 ? 9 : Math.Sqrt(0.5);
    }

    [Fact]
    public void Above_the_highest_octave_that_tells_it_it_is_as_in_that()
    {
        var (level, _) = Gains(element: i => i is >= 1 and < 4096 ? 1 : 0, before: i => i < 136 ? 1e-6 : 1e6).Through(Filter(Heard), Filter(Heard));
        Assert.Equal((67 + ((4096 - 68) * 4)) / 4095.0, level, 1e-9);

        static double Heard(int bin) => bin < 68 ? 1 : bin < 136 ? 2 : 9;
    }

    [Fact]
    public void A_delay_changes_no_level()
    {
        Complex[] delayed = [.. Enumerable.Range(0, Size).Select(i => Complex.FromPolarCoordinates(0.5, -2 * Math.PI * i * 7 / Size))];
        Assert.Equal(0.25, Gains(element: _ => 1).Through(delayed, delayed).Level, 1e-9);
    }

    [Theory]
    [InlineData(0.31, 1)]
    [InlineData(0.29, 0)]
    public void An_octave_tells_it_from_a_third_of_what_was_before_over_all_hits(double heard, double known) =>
        Assert.Equal(known, Gains(element: _ => 1, before: _ => 10 / heard).Through(Filter(_ => 1), Filter(_ => 1)).Known, 1e-9);

    [Fact]
    public void Where_no_octave_tells_it_all_do_and_none_is_known()
    {
        var (level, known) = Gains(element: i => i is >= 1 and < 17 ? 3 : i is >= 17 and < 34 ? 1 : 0, before: _ => 1e9).Through(Filter(i => i < 17 ? 1 : 2), Filter(i => i < 17 ? 1 : 2));
        Assert.Equal(((16 * 3 * 1) + (17 * 1 * 4)) / (double)((16 * 3) + 17), level, 1e-9);
        Assert.Equal(0, known);
    }

    [Fact]
    public void What_only_one_of_two_filters_lets_through_is_none()
    {
        var (level, _) = Gains(element: _ => 1).Through(Filter(i => i < 544 ? 1 : 0), Filter(i => i < 68 ? 1 : 0));
        var (own, _) = Gains(element: i => i < 68 ? 1 : 0).Through(Filter(_ => 1), Filter(_ => 1));
        Assert.Equal(1, own, 1e-9);
        Assert.Equal(1, level, 1e-9); // the octaves above tell nothing, so that they are as those that do
    }

    [Fact]
    public void In_the_clear_it_is_what_is_gained_by_octaves_and_one_in_which_its_own_track_gains_nothing_tells_nothing()
    {
        // A quarter up to bin 68 and a half up to 136; above, its own track has less at its hits than before.
        var (level, known) = Gains(element: i => i is >= 1 and < 4096 ? 1 : 0, own: i => i < 136 ? 2 : -1).Of(All(i => i < 68 ? 0.5 : i < 136 ? 1 : 3));
        Assert.Equal(((67 * 0.25) + ((4096 - 68) * 0.5)) / 4095, level, 1e-9);
        Assert.Equal(135 / 4095.0, known, 1e-9);
    }

    private static BandGains Gains(Func<int, double> element, Func<int, double>? before = null, Func<int, double>? own = null) =>
        new(All(element), All(own ?? (_ => 1)), All(before ?? (_ => 1e-6)), 10, 48000);

    private static double[] All(Func<int, double> of) => [.. Enumerable.Range(0, Size).Select(of)];

    private static Complex[] Filter(Func<int, double> gain) => [.. Enumerable.Range(0, Size).Select(i => new Complex(gain(i), 0))];
}

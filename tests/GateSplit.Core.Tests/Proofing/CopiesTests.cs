using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>What is alike by way of a third is one group, with the lags added up along the way.</summary>
public sealed class CopiesTests
{
    [Fact]
    public void Copies_of_copies_are_one_group_and_others_another()
    {
        // 3 is a copy of 1 and of 2, which were not found alike; 5 is one of 4.
        var groups = Copies.Groups([(1, Behind(3, 100)), (2, Behind(3, 30)), (4, Behind(5, -7.5))]);
        Assert.Equal(2, groups.Count);
        Assert.Equal([(1, 0.0), (2, 70.0), (3, 100.0)], groups[0].Select(g => (g.Key, g.Value)).Order());
        Assert.Equal([(4, 0.0), (5, -7.5)], groups[1].Select(g => (g.Key, g.Value)).Order());
    }

    [Fact]
    public void What_has_no_copy_is_in_no_group() => Assert.Empty(Copies.Groups([]));

    private static DoubleOf Behind(int file, double lag) => new(file, lag, Decibels.Unity, 1, 1);
}

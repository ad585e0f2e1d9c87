using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>What is heard on several inputs is held against what the split says of each: where an element is itself, and where it bleeds in.</summary>
public sealed class TurnHeardTests
{
    [Fact]
    public void A_pair_and_what_bleeds_are_as_planned() => Is([], [], (1, -30), (2, -30), (3, -44));

    [Fact]
    public void A_side_in_the_place_of_what_only_bleeds_is_missing_and_elsewhere() => Is([2], [3], (1, -30), (3, -30), (2, -44));

    [Fact]
    public void What_hears_all_may_be_louder_than_the_element_itself() => Is([], [], (6, -30), (1, -40), (2, -40));

    [Fact]
    public void What_bleeds_in_is_never_needed() => Is([], [], (1, -30), (2, -31));

    [Fact]
    public void A_side_that_is_20_dB_softer_is_there_and_one_that_is_more_so_is_missing()
    {
        Is([], [], (1, -30), (2, -49.9));
        Is([2], [], (1, -30), (2, -50.1));
    }

    [Fact]
    public void On_an_input_that_is_not_planned_down_to_20_dB_is_the_element_itself()
    {
        Is([], [5], (1, -30), (2, -30), (5, -49.9));
        Is([], [], (1, -30), (2, -30), (5, -50.1));
    }

    [Fact]
    public void What_is_much_louder_than_bleed_is_more_than_bleed_unless_all_is_squeezed_by_clipping()
    {
        Is([], [4], (1, -10), (2, -10), (4, -20)); // 30 dB less was planned
        Assert.True(Heard(clips: true, (1, -10), (2, -10), (4, -20)).AsPlanned);
    }

    [Fact]
    public void Nothing_is_as_planned_of_what_is_heard_nowhere() => Assert.False(Heard(clips: false).AsPlanned);

    private static void Is(int[] missing, int[] extra, params (int Channel, double Level)[] arrivals)
    {
        var heard = Heard(clips: false, arrivals);
        Assert.Equal(missing, heard.Missing);
        Assert.Equal(extra, heard.Extra);
        Assert.Equal(missing.Length + extra.Length == 0, heard.AsPlanned);
    }

    private static TurnHeard Heard(bool clips, params (int Channel, double Level)[] arrivals) => new(
        new Turn([], "Pad", 1, 60, true, [0], 1, [new(1, Decibels.Unity, true), new(2, Decibels.Unity, true), new(3, new(-14), false), new(4, new(-30), false), new(6, new(-2), false)]),
        0,
        [.. arrivals.Select(a => new Arrival(a.Channel, new(a.Level), new(a.Level), null, null, clips))],
        null,
        []);
}

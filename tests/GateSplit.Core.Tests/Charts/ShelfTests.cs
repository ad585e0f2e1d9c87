using GateSplit.Core.Charts;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Charts;

public sealed class ShelfTests
{
    public static TheoryData<string> Ids => [.. Shelf.Charts.Select(c => c.Id)];

    [Theory]
    [MemberData(nameof(Ids))]
    public void A_chart_holds_together(string id)
    {
        var chart = Shelf.Find(id)!;
        var split = StartingSplit.Of([chart], 1, 48000);
        Assert.Null(SplitShape.Trouble(split));
        Assert.Equal(chart.Ports.Length, chart.Ports.Select(p => p.Number).Distinct().Count());

        // Every channel of the gate belongs to exactly one port.
        Assert.Equal(Enumerable.Range(1, chart.Channels), chart.Ports.SelectMany(p => Enumerable.Range(p.FirstChannel, (int)p.Width)).Order());
        Assert.All(chart.Elements, e => Assert.All(e.Ports, p => Assert.NotNull(chart.Port(p))));
        Assert.All(chart.Modes, m => Assert.All(m.Ports, p => Assert.NotNull(chart.Port(p))));
        Assert.Equal(chart.Elements.Length, chart.Elements.Select(e => e.Id).Distinct().Count());
    }

    [Fact]
    public void The_drum_machine_follows_the_rule_of_counting_after_a_mix_pair()
    {
        // After a mix pair the k-th mono voice sits on input k + 2.
        var voices = MudlarkNine.Chart.Elements.Where(e => e.Kind == ElementKind.Voice).ToList();
        for (var k = 1; k <= 9; k++)
        {
            Assert.Equal(k + 2, MudlarkNine.Chart.Port(voices[k - 1].Port!.Value)!.FirstChannel);
        }

        Assert.Equal(12, MudlarkNine.Chart.Channels);
    }

    [Fact]
    public void Pair_p_is_channels_2p_minus_1_and_2p()
    {
        Assert.All(OstlerKitRoom.Chart.Ports, p => Assert.Equal($"{2 * p.Number - 1}-{2 * p.Number}", p.Channels));
    }
}

using GateSplit.Core.Charts;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Charts;

public sealed class ShelfTests
{
    public static TheoryData<string> Ids => [.. Shelf.Charts.Select(c => c.Id.Value)];

    [Theory]
    [MemberData(nameof(Ids))]
    public void A_chart_holds_together(string id)
    {
        var chart = Shelf.Find(new ChartId(id))!;
        var split = StartingSplit.Of([chart], 1, 48000);
        Assert.Null(SplitRules.Trouble(split));
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
    public void The_shelf_holds_the_ten_charts_that_ship()
    {
        Assert.Equal(
            ["Ostler Kit Room", "Fennel Sampler", "Tansy Grid", "Mudlark Nine", "Brindle Six", "Heron Ten", "Wicker Keys", "Pocket Weir", "Siskin Mono", "Recorder groups"],
            Shelf.Charts.Select(c => c.Name));
    }

    [Fact]
    public void What_each_chart_is_known_for()
    {
        Chart Of(string id) => Shelf.Find(new ChartId(id))!;
        var grid = Of("tansy-grid");
        Assert.Equal((6, 72, 20), (grid.Groups.Length, grid.Elements.Length, grid.Ports.Length));
        Assert.All(grid.Groups, g => Assert.Equal(12, grid.Elements.Count(e => e.Group == g.Name)));
        var box = Of("brindle-six");
        Assert.Equal(16, box.Channels);
        Assert.Equal(["3-4", "5-6", "7-8", "9-10", "11-12", "13-14"], box.Ports.Skip(1).Take(6).Select(p => p.Channels));
        Assert.Equal("15-16", box.Port(8)!.Channels);
        Assert.True(box.Modes.Single(m => m.Ports.Length > 1).NeedsRestart);
        var heron = Of("heron-ten");
        var pads = heron.Elements.Where(e => e.Kind == ElementKind.Voice).ToList();
        Assert.Equal(10, pads.Count);
        Assert.Equal(7, pads.Select(p => p.Port).Distinct().Count());
        Assert.All(pads.GroupBy(p => p.Port), g => Assert.True(g.Count() == 1 || g.Select(p => p.SharedVoice).Distinct().Single() is not null));
        Assert.Equal(2, Of("pocket-weir").Elements.Count(e => e.Kind == ElementKind.NoteOnly));
        Assert.True(Of("fennel-sampler").DeclaresPorts);
        Assert.Equal(2, Of("siskin-mono").Channels);
    }

    [Fact]
    public void Pair_p_is_channels_2p_minus_1_and_2p()
    {
        Assert.All(OstlerKitRoom.Chart.Ports, p => Assert.Equal($"{2 * p.Number - 1}-{2 * p.Number}", p.Channels));
    }
}

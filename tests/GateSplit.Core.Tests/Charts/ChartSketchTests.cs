using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Charts;

/// <summary>A chart made of a list of names, and groups, keys and straight sends set one by one.</summary>
public sealed class ChartSketchTests
{
    private static readonly ChartId Id = new("listed");

    [Theory]
    [InlineData(Width.Mono, 3, "1-2 3 4 5", "2 3 4")]
    [InlineData(Width.Stereo, 3, "1-2 3-4 5-6 7-8", "2 3 4")]
    [InlineData(Width.Mono, 5, "1-2 3 4 5 6 7", "4 5 6")]
    [InlineData(Width.Stereo, 5, "1-2 3 4 5-6 7-8 9-10", "4 5 6")]
    public void The_first_sits_where_it_is_said_to_after_the_mix(Width width, int first, string channels, string ports)
    {
        var chart = ChartSketch.OfNames(Id, "Listed", "Kick\nSnare\nHat", width, first).Value!;
        Assert.Equal(channels, string.Join(' ', chart.Ports.Select(p => p.Channels)));
        Assert.Equal(ports, string.Join(' ', chart.Elements.Select(e => e.Port)));
        Assert.Equal(["Kick", "Snare", "Hat"], chart.Elements.Select(e => chart.Port(e.Port!.Value)!.Name));
        Assert.All(chart.Elements, e => Assert.Equal(width, e.Width));
        Assert.Equal(chart.Ports.Select(p => p.Number), chart.Modes[0].Ports);
        Assert.Null(ChartRules.Trouble(chart));
    }

    [Theory]
    [InlineData(2)]
    [InlineData(257)]
    public void Where_nothing_can_sit_is_told(int first) =>
        Assert.Equal("The main mix is on 1-2, so the first element sits on 3 or higher, up to 256.", ChartSketch.OfNames(Id, "Listed", "Kick", Width.Mono, first).Trouble);

    [Fact]
    public void A_pasted_list_makes_a_chart_with_groups_and_keys_that_count_upward()
    {
        var chart = ChartSketch.OfNames(Id, "Listed", "Drums:\r\nKick 36\r\nSnare drum\t38\r\nClosed hat\r\n\r\nBass line\nPad, 37\nShaker 2").Value!;
        Assert.Null(ChartRules.Trouble(chart));
        Assert.Equal(["Kick", "Snare drum", "Closed hat", "Bass line", "Pad", "Shaker 2"], chart.Elements.Select(e => e.Name)); // a small number is a part of the name
        Assert.Equal([36, 38, 39, 40, 37, 41], chart.Voices.Select(v => v.Keys.Single())); // none is given twice
        Assert.Equal(["Drums", "Drums", "Drums", null, null, null], chart.Elements.Select(e => e.Group));
        Assert.Equal(["Drums"], chart.Groups.Select(g => g.Name));
        Assert.Equal([Family.LowDrum, Family.Snare, Family.HatAndCymbal, Family.Bass, Family.Keys, Family.TomAndPercussion], chart.Elements.Select(e => e.Family));
        Assert.Equal([null, .. Enumerable.Range(3, 6).Select(n => $"{n}")], chart.Ports.Select(p => p.IsMain ? null : p.Channels));
        Assert.All(chart.Elements.Zip(chart.Ports.Skip(1)), p => Assert.Equal(p.First.Port, p.Second.Number));
    }

    [Theory]
    [InlineData("", "A list makes 1 to 64 elements, one a line; this one has 0.")]
    [InlineData("Drums:\n\n", "A list makes 1 to 64 elements, one a line; this one has 0.")]
    public void An_empty_list_is_told(string list, string sentence) => Assert.Equal(sentence, ChartSketch.OfNames(Id, "Listed", list).Trouble);

    [Fact]
    public void A_list_has_as_many_names_as_a_chart_has_elements_at_most()
    {
        Assert.True(ChartSketch.OfNames(Id, "Listed", string.Join('\n', Enumerable.Range(1, 64).Select(n => $"E{n}"))).Ok);
        Assert.Equal("A list makes 1 to 64 elements, one a line; this one has 65.", ChartSketch.OfNames(Id, "Listed", string.Join('\n', Enumerable.Range(1, 65).Select(n => $"E{n}"))).Trouble);
        Assert.NotNull(ChartSketch.OfNames(Id, "Listed", new string('x', 200)).Trouble);
    }

    [Fact]
    public void Groups_are_added_nested_renamed_and_taken_away_and_what_followed_them_follows_on()
    {
        var chart = ChartSketch.OfNames(Id, "Listed", "Low:\nKick\nBass\n\nSnare").Value!.AddGroup("All");
        chart = chart.SetGroup("Low", chart.Group("Low")! with { Parent = "All", FaderDb = new Decibels(-2), Port = 3 });
        Assert.Null(ChartRules.Trouble(chart));
        chart = chart.SetGroup("All", chart.Group("All")! with { Name = "Everything" });
        Assert.Equal(("Everything", 3), (chart.Group("Low")!.Parent, chart.Group("Low")!.Port));
        var circle = chart.SetGroup("Everything", chart.Group("Everything")! with { Parent = "Low" });
        Assert.Contains("follows itself", ChartRules.Trouble(circle), StringComparison.Ordinal);
        var removed = chart.RemoveGroup("Low");
        Assert.Equal(["Everything", "Everything", null], removed.Elements.Select(e => e.Group));
        Assert.Null(ChartRules.Trouble(removed));
        Assert.Null(chart.RemoveGroup("Everything").Group("Low")!.Parent);
    }

    [Fact]
    public void Keys_count_upward_over_what_one_key_plays()
    {
        var chart = ChartSketch.OfNames(Id, "Listed", "A\nB\nC").Value!;
        chart = chart.Set(chart.Elements[1], 10, [50, 52]).CountKeys(3, 60);
        Assert.Equal([(3, "60"), (10, "50,52"), (3, "61")], chart.Voices.Select(v => (v.Channel, string.Join(',', v.Keys))));
        Assert.NotNull(ChartRules.Trouble(chart.CountKeys(3, 127)));
        Assert.Null(ChartRules.Trouble(chart.CountKeys(3, 126)));
    }

    [Fact]
    public void A_straight_send_of_a_chart_is_that_of_a_new_source_and_goes_with_its_port()
    {
        var chart = ChartSketch.OfNames(Id, "Listed", "A\nB\nC").Value!;
        chart = chart.SetStraight(chart.Elements[0].Id, new StraightSend(4) { LevelDb = new Decibels(-6), BeforeEffects = true });
        Assert.Null(ChartRules.Trouble(chart));
        Assert.Equal(chart.Elements[0].Straight, Unit.FromChart(new UnitId("u1"), chart).Elements[0].Straight);
        Assert.Equal(chart.Elements[0].Straight, ChartJson.Read(ChartJson.Write(chart)).Value!.Elements[0].Straight);
        Assert.Null(chart.RemovePort(4).Elements[0].Straight);
        Assert.NotNull(chart.RemovePort(3).Elements[0].Straight);
        Assert.NotNull(ChartRules.Trouble(chart.SetStraight(chart.Elements[0].Id, new StraightSend(40))));
        Assert.Null(chart.SetStraight(chart.Elements[0].Id, null).Elements[0].Straight);
    }
}

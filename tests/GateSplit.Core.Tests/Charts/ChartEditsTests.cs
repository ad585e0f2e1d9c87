using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Charts;

/// <summary>A chart changed piece by piece.</summary>
public sealed class ChartEditsTests
{
    private static readonly Chart Before = MudlarkNine.Chart;

    [Fact]
    public void Every_edit_leaves_a_chart_that_holds_together_and_the_rest_of_it_alone()
    {
        var added = Before.AddElement("Rim").AddReturn("Slap").AddReturn("Hall");
        Assert.Null(ChartRules.Trouble(added));
        Assert.Equal(Before.Elements, added.Elements[..^3]);
        Assert.Equal(["element-1", "return-1", "return-2"], added.Elements[^3..].Select(e => e.Id.Value));
        Assert.Equal(Before.Voices.Length + 1, added.Voices.Length); // a return has no voice

        var echo = added.SetReturn(new ElementId("return-1"), 2, 0.375);
        Assert.Equal((2, 0.375), (echo.Element(new ElementId("return-1"))!.ReturnSeconds, echo.Element(new ElementId("return-1"))!.EchoSeconds));
        Assert.Equal(added.Elements, echo.SetReturn(new ElementId("return-1"), 1.5, null).Elements);

        var driven = added.SetEffects(new ElementId("element-1"), new InsertPatch("Grit") { Drive = 2 }, new Decibels(-12));
        Assert.Equal(("Grit", new Decibels(-12)), (driven.Element(new ElementId("element-1"))!.Insert!.Name, driven.Element(new ElementId("element-1"))!.SendDb!.Value));
        Assert.Equal(added.Elements.Where(e => e.Id.Value != "element-1"), driven.Elements.Where(e => e.Id.Value != "element-1"));
        Assert.Equal(Before.Voices, driven.RemoveElement(new ElementId("element-1")).Voices);
    }

    [Fact]
    public void A_port_in_the_middle_moves_the_channels_behind_it()
    {
        var wide = Before.SetPort(2, "Wide", Width.Stereo, Tap.BeforeFader);
        Assert.Null(ChartRules.Trouble(wide));
        Assert.Equal(Before.Ports.Where(p => p.Number > 2).Select(p => p.FirstChannel + 1), wide.Ports.Where(p => p.Number > 2).Select(p => p.FirstChannel));

        var less = Before.RemovePort(2);
        Assert.Null(ChartRules.Trouble(less));
        Assert.Equal(Before.Channels - 1, less.Channels);
        Assert.All(Before.Elements.Where(e => e.Port == 2), e => Assert.True(less.Element(e.Id) is { Port: null, InMain: true }));
        Assert.DoesNotContain(2, less.Modes.SelectMany(m => m.Ports));
    }
}

using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Views;

/// <summary>What a track should hold: what was said of it, or what its name tells where nothing was.</summary>
public sealed class MeaningTests
{
    private static readonly UnitId U1 = new("u1");

    [Theory]
    [InlineData("mudlark-nine", "Kick", "kick")]
    [InlineData("mudlark-nine", "  kick ", "kick")]
    [InlineData("mudlark-nine", "BD", "kick")]
    [InlineData("mudlark-nine", "Kick hw", "kick")]
    [InlineData("mudlark-nine", "bass drum", "kick")]
    [InlineData("mudlark-nine", "BassDrum", "kick")]
    [InlineData("mudlark-nine", "SD", "snare")]
    [InlineData("mudlark-nine", "RS", "rim")]
    [InlineData("mudlark-nine", "CP", "clap")]
    [InlineData("mudlark-nine", "CHH", "hat")]
    [InlineData("mudlark-nine", "OH", "hat-open")]
    [InlineData("mudlark-nine", "LT", "tom-low")]
    [InlineData("mudlark-nine", "HT", "tom-high")]
    [InlineData("ostler-kit-room", "OH", "overheads")]
    [InlineData("ostler-kit-room", "Hihat", "hat")]
    [InlineData("ostler-kit-room", "SN btm", "snare-bottom")]
    [InlineData("ostler-kit-room", "KickIn", "kick-in")]
    [InlineData("ostler-kit-room", "KickOut", "kick-out")]
    [InlineData("ostler-kit-room", "Rm", "room")]
    [InlineData("ostler-kit-room", "Kick", null)] // in or out?
    [InlineData("mudlark-nine", "Drum 3", null)]
    [InlineData("mudlark-nine", "Tom", null)]
    [InlineData("mudlark-nine", "Kick verb", null)]
    [InlineData("mudlark-nine", "USB", null)]
    [InlineData("mudlark-nine", "", null)]
    [InlineData("mudlark-nine", "Низкий", null)]
    public void A_name_tells_one_element_or_nothing(string chart, string name, string? element)
    {
        var split = Laid(chart);
        var track = split.Tracks[0] with { Name = name, MeantFor = [], Input = null };
        var meaning = Meaning.Of(split, track);
        Assert.Equal(element, meaning.Elements is [var one] ? one.ElementId.Value : null);
        Assert.Equal((element is not null, element is null), (meaning.ByName, meaning.IsOpen));
    }

    [Fact]
    public void What_was_said_goes_before_the_name_and_a_group_is_what_leaves_with_it()
    {
        var split = Laid("tansy-grid");
        var track = split.Tracks[0] with { Name = "A1" };
        Meaning Of(params Meant[] meant) => Meaning.Of(split, track with { MeantFor = [.. meant] });
        var b2 = new ElementRef(U1, new ElementId("b2"));
        Assert.Equal((b2, false), (Of(Meant.For(b2)).Elements.Single(), Of(Meant.For(b2)).ByName));

        // What has a port of its own does not leave with its group.
        var inGroup = split.Units[0].Elements.Where(e => e.ElementId.Value.StartsWith('f') && e.Port is null).Select(e => e.ElementId);
        Assert.Equal(inGroup, Of(Meant.ForGroup(U1, "Group F")).Elements.Select(e => e.ElementId));
        Assert.Equal([U1], Of(Meant.ForMix(U1)).Mixes);

        // What is not there any more is meant no less, but nobody can say where it arrives.
        Assert.True(Of(Meant.For(new(new UnitId("u9"), new ElementId("kick")))).IsOpen);
        Assert.True(Of(Meant.ForMix(new UnitId("u9"))).IsOpen);
        Assert.True(Of(Meant.For(new(U1, new ElementId("none")))).IsOpen);
        Assert.True(Of(Meant.ForGroup(U1, "No such group")).IsOpen);
    }

    [Fact]
    public void Of_two_sources_with_an_element_of_that_name_it_is_that_of_the_one_it_listens_to()
    {
        var split = FaultyTwins();
        foreach (var unit in split.Units)
        {
            var track = new Track(new TrackId("t90"), "Kick", Width.Mono) { Input = new InputRef(split.BankOf(unit).Id, 5) };
            Assert.Equal(unit.Id, Meaning.Of(split, track).Elements.Single().UnitId);
        }
    }

    [Theory]
    [InlineData("u1/kick")]
    [InlineData("u1/group/Group A / B")]
    [InlineData("u2/mix/")]
    public void It_is_written_and_read(string text) => Assert.Equal(text, Meant.Read(text)!.ToString());

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("kick")]
    [InlineData("u1/")]
    [InlineData("/kick")]
    [InlineData("u1/group/")]
    [InlineData("/mix/")]
    [InlineData("u1/mix/too")]
    public void Anything_else_is_not_read(string? text) => Assert.Null(Meant.Read(text));

    private static Split Laid(string chart) => Sessions.Laid(Shelf.Find(new ChartId(chart))!).Split;

    private static Split FaultyTwins() => Core.Planning.StartingSplit.Of([MudlarkNine.Chart, MudlarkNine.Chart], 4, 48000);
}

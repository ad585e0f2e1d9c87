using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>Charts of one's own: made, copied, changed, exported, brought in, deleted, used in a session and updated there.</summary>
public sealed class ShelfPageTests
{
    [Fact]
    public async Task A_list_of_names_makes_a_chart_whose_groups_keys_and_sends_are_set_by_form()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/shelf");
        await visitor.Send("#list-name", new Dictionary<string, string> { ["name"] = "Rope Walk", ["names"] = "Drums:\nKick\nSnare\n\nPad 60" });
        Chart Kept(byte[] file) => ChartJson.Read(Encoding.UTF8.GetString(file)).Value!;
        async Task<Chart> Now() => Kept(await visitor.Bytes("/shelf/rope-walk?handler=Export"));
        Assert.Equal(["Kick", "Snare", "Pad"], (await Now()).Elements.Select(e => e.Name));

        await visitor.Send("form[action*='AddGroup']", new Dictionary<string, string> { ["name"] = "All" });
        await visitor.Send("#group-0", new Dictionary<string, string> { ["parent"] = "All", ["port"] = "4", ["fader"] = "-3" });
        await visitor.Send("form[action*='handler=Keys']", new Dictionary<string, string> { ["first"] = "48", ["channel"] = "2" });
        await visitor.Send("form[action*='handler=About']", new Dictionary<string, string> { ["leaves"] = "true", ["declares"] = "true" });
        await visitor.Send("#straight-v1", new Dictionary<string, string> { ["port"] = "3" });
        await visitor.Send("#straight-v1", new Dictionary<string, string> { ["port"] = "3", ["level"] = "-9" });
        var chart = await Now();
        Assert.Equal(("All", 4, new Decibels(-3)), (chart.Group("Drums")!.Parent, chart.Group("Drums")!.Port, chart.Group("Drums")!.FaderDb));
        Assert.Equal([(2, 48), (2, 49), (2, 50)], chart.Voices.Select(v => (v.Channel, v.Keys.Single())));
        Assert.True(chart is { AssignedLeavesMain: true, DeclaresPorts: true });
        Assert.Equal(new StraightSend(3) { LevelDb = new Decibels(-9) }, chart.Elements[0].Straight);

        await visitor.Send("#group-1", new Dictionary<string, string> { ["parent"] = "Drums" });
        Assert.StartsWith("Not kept.", visitor.Notice, StringComparison.Ordinal); // it would follow itself
        await visitor.Get("/shelf/rope-walk");
        await visitor.Send("#group-0 button[name='remove']");
        Assert.Equal(["All", "All", null], (await Now()).Elements.Select(e => e.Group));
        await visitor.Get("/shelf");
        await visitor.Send("#list-name", new Dictionary<string, string> { ["name"] = "Empty", ["names"] = "Drums:" });
        Assert.Contains("A list makes 1 to 64 elements", visitor.Notice, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_chart_of_ones_own_is_changed_field_by_field()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/shelf");
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Sail Loft", ["elements"] = "2" });
        await visitor.Send("#element-v2", new Dictionary<string, string> { ["name"] = "Mast bell", ["family"] = "Keys", ["channel"] = "3", ["keys"] = "60, 62" });
        Assert.Equal("60, 62", visitor.Page.QuerySelector("[form='element-v2'][name='keys']")!.GetAttribute("value"));
        await visitor.Send("#element-v2", new Dictionary<string, string> { ["keys"] = "200" });
        Assert.StartsWith("Not kept.", visitor.Notice);
        await visitor.Get("/shelf/sail-loft");

        // A wider port moves the channels behind it.
        await visitor.Send("#port-2", new Dictionary<string, string> { ["width"] = "Stereo" });
        await visitor.Send("form[action*='AddPort']", new Dictionary<string, string> { ["name"] = "Spare" });
        Chart Kept(byte[] file) => ChartJson.Read(Encoding.UTF8.GetString(file)).Value!;
        var chart = Kept(await visitor.Bytes("/shelf/sail-loft?handler=Export"));
        Assert.Equal(["1-2", "3-4", "5", "6"], chart.Ports.Select(p => p.Channels));
        Assert.Contains(4, chart.Modes[0].Ports);
        Assert.Equal((3, "Mast bell"), (chart.Voices[1].Channel, chart.Elements[1].Name));

        await visitor.Send("#port-3 button[name='remove']");
        await visitor.Send("#element-v1 button[name='remove']");
        await visitor.Send("form[action*='AddElement']", new Dictionary<string, string> { ["name"] = "Deck thump" });
        chart = Kept(await visitor.Bytes("/shelf/sail-loft?handler=Export"));
        Assert.Equal(["Mast bell", "Deck thump"], chart.Elements.Select(e => e.Name));
        Assert.Null(chart.Elements[0].Port);
        Assert.Equal(["v2", "element-1"], chart.Voices.Select(v => v.Id.Value));
        Assert.Equal(["1-2", "3-4", "5"], chart.Ports.Select(p => p.Channels));

        // A chart that ships is only copied.
        await visitor.Get("/shelf/heron-ten");
        Assert.Null(visitor.Page.QuerySelector("form[action*='AddPort']"));
    }

    [Fact]
    public async Task Effects_of_a_chart_are_set_by_forms_and_what_cannot_be_is_told()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/shelf/heron-ten");
        await visitor.Send("form[action*='Copy']");
        async Task<Chart> Kept() => ChartJson.Read(Encoding.UTF8.GetString(await visitor.Bytes("/shelf/heron-ten-copy?handler=Export"))).Value!;
        var first = HeronTen.Chart.Elements.First(e => e.Kind is not (ElementKind.Return or ElementKind.NoteOnly));
        await visitor.Send($"#effects-{first.Id}", new Dictionary<string, string> { ["send"] = "−9,5", ["name"] = "Grit", ["hold"] = "12000", ["bits"] = "6", ["drive"] = "1.5" });
        var set = (await Kept()).Element(first.Id)!;
        Assert.Equal(new InsertPatch("Grit") { HoldHz = 12000, Bits = 6, Drive = 1.5 }, set.Insert);
        Assert.Equal(-9.5, set.SendDb?.Value);

        await visitor.Send($"#effects-{first.Id}", new Dictionary<string, string> { ["bits"] = "40" });
        Assert.Contains("2 to 16 bits", visitor.Notice);
        await visitor.Get("/shelf/heron-ten-copy");
        await visitor.Send($"#effects-{first.Id}", new Dictionary<string, string> { ["drive"] = "a lot" });
        Assert.Contains("a drive from 0 to 10", visitor.Notice);
        Assert.Equal(set.Insert, (await Kept()).Element(first.Id)!.Insert);
        await visitor.Get("/shelf/heron-ten-copy");
        await visitor.Send($"#effects-{first.Id}", new Dictionary<string, string> { ["send"] = "", ["name"] = "" });
        Assert.Equal((null, null), ((await Kept()).Element(first.Id)!.Insert, (await Kept()).Element(first.Id)!.SendDb));
        await visitor.Send($"#effects-{first.Id}", new Dictionary<string, string> { ["bits"] = "6" });
        Assert.Contains("it needs a name", visitor.Notice);
        await visitor.Get("/shelf/heron-ten-copy");
        await visitor.Send($"#effects-{first.Id}", new Dictionary<string, string> { ["name"] = "Grit", ["bits"] = "6.5" });
        Assert.Contains("2 to 16 bits", visitor.Notice);
        await visitor.Get("/shelf/heron-ten-copy");

        await visitor.Send("form[action*='AddReturn']", new Dictionary<string, string> { ["name"] = "Slap" });
        await visitor.Send("form[aria-label='Slap']", new Dictionary<string, string> { ["seconds"] = "2.5", ["echo"] = "0.25" });
        var slap = (await Kept()).Elements.Single(e => e.Name == "Slap");
        Assert.Equal((ElementKind.Return, 2.5, 0.25), (slap.Kind, slap.ReturnSeconds, slap.EchoSeconds));
        await visitor.Send("form[aria-label='Slap']", new Dictionary<string, string> { ["echo"] = "9" });
        Assert.Contains("0.03 to 5 seconds", visitor.Notice);

        await visitor.Get("/shelf/heron-ten-copy");
        await visitor.Send("form[action*='Master']", new Dictionary<string, string> { ["lowPass"] = "9000", ["threshold"] = "-18", ["ratio"] = "4", ["drive"] = "0.5" });
        Assert.Equal(new MasterPatch { LowPassHz = 9000, ThresholdDb = new Decibels(-18), Ratio = 4, Drive = 0.5 }, (await Kept()).Master);
        await visitor.Send("form[action*='Master']", new Dictionary<string, string> { ["remove"] = "true" });
        Assert.Null((await Kept()).Master);
    }

    [Fact]
    public async Task A_chart_from_nothing_is_changed_exported_deleted_and_brought_in_again()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/shelf");
        Assert.Equal(10, visitor.Page.QuerySelectorAll("tbody tr").Length);
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Net Loft!", ["elements"] = "3" });
        Assert.Equal("/shelf/net-loft", visitor.Page.Location.PathName);
        Assert.Contains("4 ports on 5 channels", visitor.Text);

        var text = visitor.Page.QuerySelector("#chart-text")!.TextContent.Replace("\"Voice 2\"", "\"Anchor\"");
        await visitor.Send("#chart-text", new Dictionary<string, string> { ["text"] = text });
        Assert.Contains("Anchor", visitor.Text);

        await visitor.Send("#chart-text", new Dictionary<string, string> { ["text"] = text.Replace("\"number\": 3", "\"number\": 2") });
        Assert.StartsWith("Not kept. chart.ports[2].number: port 2 is there twice.", visitor.Notice);
        Assert.Contains("\"number\": 2", visitor.Page.QuerySelector("#chart-text")!.TextContent); // what was typed is not lost

        var file = await visitor.Bytes("/shelf/net-loft?handler=Export");
        Assert.Equal("Net Loft!", ChartJson.Read(Encoding.UTF8.GetString(file)).Value!.Name);
        await visitor.Get("/shelf/net-loft");
        await visitor.Send("form[action*='Delete']");
        Assert.Equal(10, visitor.Page.QuerySelectorAll("tbody tr").Length);
        await visitor.Send("#chart-file", null, ("loft.json", file));
        Assert.Equal("/shelf/net-loft", visitor.Page.Location.PathName);
        Assert.Contains("Anchor", visitor.Text);
    }

    [Fact]
    public async Task What_is_no_chart_is_told_and_a_shipped_chart_is_only_copied()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/shelf");
        await visitor.Send("#chart-file", null, ("song.mid", "MThd"u8.ToArray()));
        Assert.Equal("song.mid: Line 1 is not JSON that can be read.", visitor.Notice);
        var many = JsonNode.Parse(ChartJson.Write(HeronTen.Chart))!;
        many["version"] = 9;
        await visitor.Send("#chart-file", null, ("new.json", Encoding.UTF8.GetBytes(many.ToJsonString())));
        Assert.Contains("version 9 of the format", visitor.Notice);

        await visitor.Get("/shelf/heron-ten");
        Assert.Null(visitor.Page.QuerySelector("#chart-text"));
        await visitor.Send("form[action*='Copy']");
        Assert.Equal("/shelf/heron-ten-copy", visitor.Page.Location.PathName);
        Assert.NotNull(visitor.Page.QuerySelector("#chart-text"));

        // A file of a shipped chart becomes another chart.
        await visitor.Get("/shelf");
        await visitor.Send("#chart-file", null, ("heron.json", Encoding.UTF8.GetBytes(ChartJson.Write(HeronTen.Chart))));
        Assert.Equal("/shelf/heron-ten-2", visitor.Page.Location.PathName);
        await visitor.Get("/shelf/nothing");
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
    }

    [Fact]
    public async Task A_session_keeps_its_copy_until_it_is_updated()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/shelf");
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Loft", ["elements"] = "2" });
        var text = visitor.Page.QuerySelector("#chart-text")!.TextContent;
        await visitor.Get("/");
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Drift", ["charts"] = "loft" });
        var sources = visitor.Page.Location.PathName.Replace("/split", "/sources");
        await visitor.Get("/shelf/loft");
        await visitor.Send("#chart-text", new Dictionary<string, string> { ["text"] = text.Replace("Voice 1", "Bell buoy") });

        await visitor.Get(sources);
        Assert.Contains("The shelf has another chart for it. Changed: 1 element (Bell buoy). Changed: 1 voice (Bell buoy).", visitor.Text);
        Assert.DoesNotContain(visitor.Page.QuerySelectorAll(".elements a"), a => a.TextContent == "Bell buoy");
        await visitor.Send("form[action*='Update']");
        Assert.Contains(visitor.Page.QuerySelectorAll(".elements a"), a => a.TextContent == "Bell buoy");
        Assert.DoesNotContain("The shelf has another chart", visitor.Text);
    }
}

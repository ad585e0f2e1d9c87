using GateSplit.Tests.Shared;
using GateSplit.Web.Forms;

namespace GateSplit.Web.Tests;

/// <summary>Many at once, passes by hand, straight sends and groups, without script.</summary>
public sealed class BulkPageTests(DemoApp demo)
{
    [Theory]
    [InlineData("level", "tracks", "t1,t2", "-3", "Set the level of 2 tracks")]
    [InlineData("pan", "tracks", "t1,t2,t3", "40", "Pan 3 tracks")]
    [InlineData("always", "tracks", "t1", "", "Set the monitoring of 1 track")]
    [InlineData("pass", "tracks", "t2", "2", "Put 1 track into pass 2")]
    [InlineData("live", "tracks", "t2", "", "Only hear 1 track")]
    [InlineData("main", "tracks", "t2", "", "Send to the main output 1 track")]
    [InlineData("fader", "chosen", "u1/kick-in,u1/hat", "-6", "Set the fader of 2 elements")]
    [InlineData("element-pan", "chosen", "u1/hat", "-20", "Pan 1 element")]
    [InlineData("bleed", "chosen", "u1/kick-in,u1/snare-top,u1/hat", "-9", "Set the bleed of 3 elements")]
    [InlineData("send", "chosen", "u1/hat", "-18", "Set the send of 1 element")]
    [InlineData("mute", "chosen", "u1/hat,u1/ride", "", "Mute 2 elements")]
    [InlineData("in-main", "chosen", "u1/hat", "", "Put into the main mix 1 element")]
    [InlineData("element-pass", "chosen", "u1/hat", "3", "Play in pass 3 only 1 element")]
    [InlineData("gather", "chosen", "u1/tom1,u1/tom2,u1/tom3", "7", "Gather High tom, Mid tom and Floor tom on port 7")]
    public async Task One_action_on_many_is_one_edit_and_one_undo(string act, string of, string chosen, string words, string edit)
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Many", "ostler-kit-room");
        await visitor.Get($"{path}/split");
        var before = await visitor.Bytes($"{path}/session.json");
        foreach (var box in visitor.Page.QuerySelectorAll($"input[name='{of}']").OfType<AngleSharp.Html.Dom.IHtmlInputElement>())
        {
            box.IsChecked = chosen.Split(',').Contains(box.Value);
        }

        await visitor.Send("#bulk", new Dictionary<string, string> { ["act"] = act, ["pattern"] = words });
        Assert.Equal($"Undo: {edit}", visitor.Page.QuerySelector("#undo")!.GetAttribute("title"));
        await visitor.Send("#undo");
        Assert.Equal(before, await visitor.Bytes($"{path}/session.json"));
    }

    public static TheoryData<string, bool> Acts => [.. BulkForm.OfTracks.Select(a => (a.Name, false)), .. BulkForm.OfElements.Select(a => (a.Name, true))];

    [Theory]
    [MemberData(nameof(Acts))]
    public async Task Whatever_is_done_to_many_is_taken_back_by_one_undo(string act, bool elements)
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Acts", "fennel-sampler");
        await visitor.Get($"{path}/recorder");
        await visitor.Send("input[placeholder='Drums']", new Dictionary<string, string> { ["name"] = "2", ["sums"] = "false" });
        await visitor.Get($"{path}/split");
        var before = await visitor.Bytes($"{path}/session.json");
        var undo = visitor.Page.QuerySelector("#undo")!.GetAttribute("title");
        foreach (var box in visitor.Page.QuerySelectorAll($"input[name='{(elements ? "chosen" : "tracks")}']").OfType<AngleSharp.Html.Dom.IHtmlInputElement>().Take(6))
        {
            box.IsChecked = true;
        }

        await visitor.Send("#bulk", new Dictionary<string, string> { ["act"] = act, ["pattern"] = "2", ["start"] = act == "output" ? "buses:1" : "b-u1:1" });
        if (visitor.Page.QuerySelector("#undo")!.GetAttribute("title") != undo)
        {
            Assert.Equal("", visitor.Notice);
            await visitor.Send("#undo");
        }
        else
        {
            Assert.NotEqual("", visitor.Notice); // what cannot be done says why
        }

        Assert.Equal(before, await visitor.Bytes($"{path}/session.json"));
    }

    [Theory]
    [InlineData("level", "tracks", "The level needs a number.")]
    [InlineData("pass", "tracks", "The pass needs a number.")]
    [InlineData("fader", "chosen", "The fader needs a number.")]
    [InlineData("insert-off", "chosen", "None of the chosen elements has that.")]
    [InlineData("gather", "chosen", "Type the number of the port.")]
    [InlineData("nothing", "tracks", "Choose what to do with the tracks or elements.")]
    public async Task What_makes_no_sense_is_told(string act, string of, string sentence)
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Nonsense", "ostler-kit-room");
        await visitor.Get($"{path}/split");
        ((AngleSharp.Html.Dom.IHtmlInputElement)visitor.Page.QuerySelector($"input[name='{of}']")!).IsChecked = true;
        await visitor.Send("#bulk", new Dictionary<string, string> { ["act"] = act, ["pattern"] = "" });
        Assert.Equal(sentence, visitor.Notice);
    }

    [Fact]
    public async Task A_straight_send_is_set_in_the_inspector_told_and_given_its_track()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Straight", "tansy-grid");
        await visitor.Get($"{path}/split?line=element:u1/a1");
        var free = visitor.Page.QuerySelectorAll("#ins-straight option").Last().GetAttribute("value")!;
        await visitor.Send("#ins-straight", new Dictionary<string, string> { ["port"] = free });
        Assert.Equal($"Undo: Feed A1 to port {free} too", visitor.Page.QuerySelector("#undo")!.GetAttribute("title"));
        await visitor.Send("#ins-straight", new Dictionary<string, string> { ["port"] = free, ["level"] = "-6" });
        Assert.Equal("-6.0", visitor.Page.QuerySelector(".straight input[name='level']")!.GetAttribute("value"));
        await visitor.Get($"{path}/split?line=port:u1/{free}");
        await visitor.Send("#ins-port-level", new Dictionary<string, string> { ["value"] = "-3" });
        Assert.Equal("-3.0", visitor.Page.QuerySelector("#ins-port-level")!.GetAttribute("value"));
    }

    [Fact]
    public async Task A_group_that_sums_feeds_another_and_one_that_sets_levels_stands_beside_it()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Groups", "ostler-kit-room");
        await visitor.Get($"{path}/recorder");
        foreach (var (name, sums) in new[] { ("Drums", "true"), ("All", "true"), ("Low", "false") })
        {
            await visitor.Send("input[placeholder='Drums']", new Dictionary<string, string> { ["name"] = name, ["sums"] = sums });
        }

        await visitor.Send("select[aria-label='Output of Drums']", new Dictionary<string, string> { ["bus"] = "=g2" });
        Assert.Equal("=g2", visitor.Page.QuerySelector("select[aria-label='Output of Drums'] option[selected]")!.GetAttribute("value"));
        Assert.Null(visitor.Page.QuerySelector("select[aria-label='Output of All'] option[value='=g1']")); // it would be a circle
        await visitor.Send("select[aria-label='Group that sums Kick in']", new Dictionary<string, string> { ["group"] = "g1" });
        await visitor.Send("button[aria-label='Kick in not in Low']");
        Assert.NotNull(visitor.Page.QuerySelector("button[aria-label='Kick in in Low']"));
        Assert.Equal("g1", visitor.Page.QuerySelector("select[aria-label='Group that sums Kick in'] option[selected]")!.GetAttribute("value"));
    }

    [Fact]
    public async Task A_track_is_put_into_a_pass_in_the_table_and_in_the_inspector()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Passes", "ostler-kit-room");
        await visitor.Get($"{path}/split?line=track:t8");
        await visitor.Send("#ins-track-pass", new Dictionary<string, string> { ["pass"] = "2" });
        Assert.Equal("2", visitor.Page.QuerySelector("select[name='track-pass:t8'] option[selected]")!.GetAttribute("value"));
        await visitor.Send("#table", new Dictionary<string, string> { ["track-pass:t9"] = "2" });
        await visitor.Get($"{path}/print");
        Assert.Contains("in 2 passes", visitor.Page.QuerySelector("#start")!.TextContent);
    }
}

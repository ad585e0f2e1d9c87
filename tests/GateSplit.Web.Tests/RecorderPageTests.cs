using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>The recorder's side, and the ways of looking at a split, without script.</summary>
public sealed class RecorderPageTests(DemoApp demo)
{
    [Fact]
    public async Task Inputs_are_switched_off_and_the_split_says_what_it_means()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Inputs", "mudlark-nine");
        await visitor.Get($"{path}/recorder");
        Assert.Contains("12 inputs, 9 taken, 3 free", visitor.Text);
        await visitor.Send("#row-b-u1 .input-cell:nth-child(3) button");
        Assert.Contains("1 switched off", visitor.Text);
        await visitor.Get($"{path}/split");
        Assert.Contains("Kick listens to USB 3, which is switched off in the recorder", visitor.Text);
        await visitor.Send(".finding form:has(input[value^='InputOff'])");
        Assert.Contains("Nothing to mend", visitor.Text);
    }

    [Fact]
    public async Task A_source_comes_in_over_cables_and_is_laid_on_sockets_in_passes()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Cables", "mudlark-nine");
        await visitor.Get($"{path}/recorder");
        await visitor.Send("#add-label", new Dictionary<string, string> { ["label"] = "Socket", ["count"] = "4" });
        await visitor.Send("#row-b-u1 form:has(input[value='bank'])", new Dictionary<string, string> { ["connected"] = "false" });
        Assert.Contains("Mudlark Nine is not connected here", visitor.Text);
        await visitor.Send("#row-in1 form:has(input[value='plug'])", new Dictionary<string, string> { ["channel"] = "3", ["count"] = "9", ["input"] = "1" });
        Assert.Contains("Socket has the inputs 1 to 4", visitor.Notice);
        await visitor.Send("#row-in1 form:has(input[value='plug'])", new Dictionary<string, string> { ["channel"] = "3", ["count"] = "4", ["input"] = "1" });
        Assert.Contains("Kick", visitor.Page.QuerySelector("#row-in1 .input-cell:nth-child(1) .input-from")!.TextContent);

        await visitor.Get($"{path}/lay?anew=true");
        Assert.Contains("9 channels of Mudlark Nine on 4 sockets take 3 passes: the cables are moved between them.", visitor.Text);
        await visitor.Send("form[action*='handler=Accept'], form[action*='handler=Lay']");
        Assert.Contains("Nothing to mend", visitor.Text);

        // More than two passes are drawn one at a time; the page shows the first.
        Assert.Equal(4, visitor.Page.QuerySelectorAll(".drawing a.track").Length);
        await visitor.Get($"{path}/split?turn=pass%3A0");
        Assert.Equal(9, visitor.Page.QuerySelectorAll(".drawing a.track").Length);
    }

    [Fact]
    public async Task Groups_of_tracks_are_made_filled_and_removed()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Groups", "ostler-kit-room");
        await visitor.Get($"{path}/recorder");
        await visitor.Send("form:has(input[value='add-group'])", new Dictionary<string, string> { ["name"] = "Close", ["sums"] = "true" });
        await visitor.Send("form:has(input[value='in-group']):has(input[value='t1'])", new Dictionary<string, string> { ["group"] = "g1" });
        await visitor.Send("#group-g1", new Dictionary<string, string> { ["name"] = "Close mics", ["level"] = "-3", ["bus"] = "buses:1" });
        Assert.Equal("Close mics", visitor.Page.QuerySelector("[form='group-g1'][name='name']")!.GetAttribute("value"));
        Assert.Contains("Close mics", visitor.Page.QuerySelector("#row-buses .input-cell:nth-child(2) .input-from")!.TextContent);
        await visitor.Send("#group-g1", new Dictionary<string, string> { ["name"] = "Close mics", ["level"] = "loud", ["bus"] = "" });
        Assert.Contains("needs a number", visitor.Notice);
        await visitor.Send("form:has(input[value='remove-group'])");
        Assert.Contains("None yet", visitor.Text);
    }

    [Fact]
    public async Task The_table_sends_only_what_stands_otherwise()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Table", "mudlark-nine");
        await visitor.Get($"{path}/split");
        await visitor.Send("#table");
        Assert.Contains("Nothing stands otherwise", visitor.Notice);
        await visitor.Send("#table", new Dictionary<string, string> { ["monitor:t1"] = "Never", ["input:t2"] = "b-u1:12" });
        Assert.Contains("Undo: Change 2 settings in the table", visitor.Page.QuerySelector("#undo")!.GetAttribute("title"));
        Assert.Contains("Snare goes out of port", visitor.Text);
        await visitor.Send("#undo");
        Assert.Contains("Nothing to mend", visitor.Text);
    }

    [Fact]
    public async Task A_track_that_stands_in_two_rows_is_changed_once()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/sessions/2/split");
        var twice = visitor.Page.QuerySelectorAll("#lines select[name^='input:']").GroupBy(s => s.GetAttribute("name")).First(g => g.Count() > 1).Key!;
        await visitor.Send("#table", new Dictionary<string, string> { [twice.Replace("input", "monitor", StringComparison.Ordinal)] = "Never" });
        Assert.StartsWith("Undo: Monitor", visitor.Page.QuerySelector("#undo")!.GetAttribute("title"), StringComparison.Ordinal);
        await visitor.Send("#undo");
    }

    [Fact]
    public async Task Groups_fold_and_only_what_is_to_mend_is_shown_as_long_as_one_likes()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Looks", "tansy-grid");
        await visitor.Get($"{path}/split?turn=fold%3Au1%2FGroup%20A");
        Assert.Contains("Group A", visitor.Page.QuerySelector(".drawing .fold")!.TextContent);
        Assert.DoesNotContain(visitor.Page.QuerySelectorAll(".drawing a.element"), e => e.TextContent.Trim().StartsWith("A1", StringComparison.Ordinal));
        await visitor.Get($"{path}/split");
        Assert.Single(visitor.Page.QuerySelectorAll(".drawing .fold"));
        await visitor.Get($"{path}/split?turn=unfold-all");
        Assert.Empty(visitor.Page.QuerySelectorAll(".drawing .fold"));
        await visitor.Get($"{path}/split?turn=mend");
        Assert.Contains("No line has anything to mend", visitor.Text);
        Assert.Empty(visitor.Page.QuerySelectorAll(".drawing a.track"));
    }

    [Fact]
    public async Task Sends_and_what_sounds_are_set_on_the_line()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Sends", "mudlark-nine");
        await visitor.Get($"{path}/split?line=element%3Au1%2Fsnare");
        await visitor.Send("form:has(input[value='send'])", new Dictionary<string, string> { ["level"] = "-6,5", ["pan"] = "-30" });
        Assert.Equal("-6.5", visitor.Page.QuerySelector("#ins-send")!.GetAttribute("value"));
        await visitor.Send("form:has(input[value='sounds'])", new Dictionary<string, string> { ["sounds"] = "false" });
        await visitor.Get($"{path}/split");
        Assert.Contains("nothing that plays in this song arrives on USB 4", visitor.Text);
    }

    [Fact]
    public async Task A_ping_sets_how_late_a_looped_back_pair_really_is()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/sessions/5/line-check");
        await visitor.Send("form:has(input[value='gear-interface'])", new Dictionary<string, string> { ["trip"] = "900" });
        await visitor.Get("/sessions/5/recorder");
        await visitor.Send("form[action*='handler=Ping']");
        Assert.Equal("900", visitor.Page.QuerySelector("input[name='delay']")!.GetAttribute("value"));
        await visitor.Send("form[action*='handler=Ping']");
        Assert.Equal("The ping came back on Loop after 900 samples, as the split says.", visitor.Notice);
    }
}

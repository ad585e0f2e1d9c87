using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>The sources of a session without script: added, restarted, grouped, declared, removed; findings accepted; history.</summary>
public sealed class SourcesPageTests(DemoApp demo)
{
    [Fact]
    public async Task A_groovebox_is_added_restarted_and_checked()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        var path = await NewSession(visitor, "mudlark-nine");
        await visitor.Get(path + "sources");
        await visitor.Send("#add-chart", new Dictionary<string, string> { ["chart"] = "brindle-six" });
        await visitor.Send("#mode-u2", new Dictionary<string, string> { ["mode"] = "full" });
        Assert.Contains("It goes on as Built-in driver, stereo until it was started again.", visitor.Text);
        Assert.Contains("1 to restart", visitor.Page.QuerySelector("#route")!.TextContent);
        await visitor.Get(path + "split");
        Assert.Contains("Brindle Six is set to Full driver, sixteen channels, but goes on as Built-in driver, stereo", visitor.Text);
        await visitor.Get(path + "sources");
        await visitor.Send(".restart form");
        Assert.DoesNotContain("It goes on as Built-in", visitor.Text);
        await visitor.Send("#undo");
        Assert.Contains("It goes on as Built-in", visitor.Text);
        await visitor.Send("form:has(input[value='remove-unit']):has(input[name='unit'][value='u2'])");
        Assert.DoesNotContain("Brindle Six", visitor.Page.QuerySelector(".main-column")!.TextContent);
    }

    [Fact]
    public async Task Groups_and_declared_outputs_are_set_here()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        var path = await NewSession(visitor, "tansy-grid");
        await visitor.Get(path + "sources");
        await visitor.Send("select[aria-label='Port of Group B']", new Dictionary<string, string> { ["port"] = "4" });
        await visitor.Send("input[aria-label='Fader of Group B, dB']", new Dictionary<string, string> { ["value"] = "−3,5" });
        Assert.Equal("4", visitor.Page.QuerySelector("select[aria-label='Port of Group B'] option[selected]")!.GetAttribute("value"));
        Assert.Equal("-3.5", visitor.Page.QuerySelector("input[aria-label='Fader of Group B, dB']")!.GetAttribute("value"));
        await visitor.Send("input[aria-label='Fader of Group B, dB']", new Dictionary<string, string> { ["value"] = "500" });
        Assert.Equal("A fader goes from -120 to +12 dB.", visitor.Notice);

        await visitor.Send("#add-chart", new Dictionary<string, string> { ["chart"] = "fennel-sampler" });
        await visitor.Send(".declare", new Dictionary<string, string> { ["count"] = "5", ["width"] = "mono", ["label"] = "Hit", ["from"] = "1" });
        Assert.Contains("New outputs exist only once it was loaded again.", visitor.Text);
        Assert.Contains("1 port of 6 open", visitor.Text);
        await visitor.Send(".restart form");
        Assert.Contains("6 ports of 6 open", visitor.Text);
    }

    [Fact]
    public async Task A_channel_of_the_song_is_let_play_another_part_and_a_song_that_plays_nothing_is_told()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Channels");
        await visitor.Get($"{path}/sources");
        Assert.Contains("Notes: it listens to channel 10 (keys 36 to 49)", visitor.Text);
        string FirstPart() => string.Join(' ', visitor.Page.QuerySelectorAll("tr").First(r => r.FirstElementChild!.TextContent == "Kick").Children.Select(c => c.TextContent));
        Assert.Equal("Kick 10 36 1", FirstPart()); // part, channel, key, and one note of it in the song
        await visitor.Send(".note-route", new Dictionary<string, string> { ["from"] = "10", ["to"] = "3", ["keys"] = "12" });
        Assert.Contains("Channel 10 of the song plays it on channel 3, 12 keys higher.", visitor.Text);
        Assert.Equal("Kick 10 36 0", FirstPart());
        await visitor.Get($"{path}/split");
        Assert.Contains("The song plays nothing of Mudlark Nine, so its files would be silent", visitor.Page.QuerySelector(".finding")!.TextContent);
        await visitor.Get($"{path}/sources");
        await visitor.Send("form:has(input[name='from'][type='hidden'])");
        Assert.Equal("Kick 10 36 1", FirstPart());
        await visitor.Send(".note-route", new Dictionary<string, string> { ["from"] = "10", ["to"] = "x" });
        Assert.Equal("The channel of the source needs a number.", visitor.Notice);
    }

    [Fact]
    public async Task What_a_track_is_meant_for_is_shown_beside_its_name_and_chosen()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Meant");
        await visitor.Get($"{path}/split?line=track%3At1");
        Assert.Equal("u1/kick", visitor.Page.QuerySelector("#ins-meant option[selected]")!.GetAttribute("value"));
        await visitor.Send("form:has(#ins-meant)", new Dictionary<string, string> { ["meant"] = "u1/snare" });
        Assert.Contains("Kick for Snare", visitor.Page.QuerySelector("#lines")!.TextContent.Replace("\n", " ", StringComparison.Ordinal));
        Assert.Contains("Kick listens to USB 3, where Kick arrives: Snare arrives on USB 4.", visitor.Text);
        await visitor.Send("form:has(#ins-meant)", new Dictionary<string, string> { ["meant"] = "" });
        Assert.Equal("as its name says: Kick", visitor.Page.QuerySelector("#ins-meant option[selected]")!.TextContent);
        Assert.Contains("Nothing to mend", visitor.Text);
        await visitor.Send("form:has(#ins-meant)", new Dictionary<string, string> { ["meant"] = "nonsense" });
        Assert.Equal("Choose what the track is meant for.", visitor.Notice);
    }

    [Fact]
    public async Task A_finding_is_accepted_as_meant_and_the_history_leads_back()
    {
        await using var app = await PageApp.Start();
        using var visitor = new Visitor(app);
        await visitor.Get("/sessions/2/split");
        Assert.Contains("8 to mend", visitor.Page.QuerySelector("#route")!.TextContent);
        await visitor.Send(".finding[data-finding='Fader@element:u1/tom-low'] .accept-form", new Dictionary<string, string> { ["why"] = "it is ridden by hand" });
        Assert.Contains("7 to mend", visitor.Page.QuerySelector("#route")!.TextContent);
        Assert.Contains("Meant so: it is ridden by hand", visitor.Text);
        await visitor.Send(".finding[data-finding='Fader@element:u1/tom-low'] .accept-form, .finding[data-finding='Fader@element:u1/tom-low'] form:has(input[value='unaccept'])");
        Assert.Contains("8 to mend", visitor.Page.QuerySelector("#route")!.TextContent);

        var steps = visitor.Page.QuerySelectorAll(".history-list li span:first-child").Select(s => s.TextContent).ToList();
        Assert.Equal(["Look at a finding again", "Accept a finding as meant", "New session"], steps);
        await visitor.Send(".history-list li:last-child form");
        Assert.Single(visitor.Page.QuerySelectorAll("#redo:not([disabled])"));
        Assert.Empty(visitor.Page.QuerySelectorAll("#undo:not([disabled])"));
        await visitor.Send("#redo");
        Assert.Contains("Meant so: it is ridden by hand", visitor.Text);
    }

    [Fact]
    public async Task Many_tracks_are_changed_in_one_action_and_undone_in_one()
    {
        await using var app = await PageApp.Start();
        using var visitor = new Visitor(app);
        await visitor.Get("/sessions/1/split");
        await visitor.Send("#bulk", new Dictionary<string, string> { ["act"] = "disarm" });
        Assert.StartsWith("Choose some tracks first", visitor.Notice);
        await visitor.Send("#bulk", new Dictionary<string, string> { ["act"] = "name", ["pattern"] = "Mic #", ["tracks"] = "t4" });
        Assert.Contains(visitor.Page.QuerySelectorAll("#lines a"), a => a.TextContent == "Mic 1");
        await visitor.Send("#undo");
        Assert.DoesNotContain(visitor.Page.QuerySelectorAll("#lines a"), a => a.TextContent == "Mic 1");
    }

    private static async Task<string> NewSession(Visitor visitor, string chart)
    {
        await visitor.Get("/");
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Harbour", ["charts"] = chart });
        return visitor.Page.Location.PathName[..^"split".Length];
    }
}

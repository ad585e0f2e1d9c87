using Dapper;
using GateSplit.Data;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>My gear without script. It is one document, so one test goes its whole way.</summary>
public sealed class GearPageTests
{
    private const string Owned = "#own > tbody > tr:not(.opened)";

    [Fact]
    public async Task What_is_owned_is_added_taken_over_set_and_begun_from()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/gear");
        Assert.Contains("There is nothing here yet.", visitor.Text);
        await visitor.Send("form:has(#add-chart)", new Dictionary<string, string> { ["chart"] = "mudlark-nine" });
        Assert.Contains("Mudlark Nine", visitor.Page.QuerySelector("#own")!.TextContent);

        // Its usual mode is taken over from a session in which it is set.
        Assert.Contains("Mix only", visitor.Page.QuerySelector("#own")!.TextContent);
        await visitor.NewSession("As it is usually");
        await visitor.Get("/gear");
        await visitor.Send("form:has(#over)");
        Assert.Single(visitor.Page.QuerySelectorAll(Owned));
        Assert.Contains("Separate", visitor.Page.QuerySelector("#own")!.TextContent);
        Assert.Contains("Bus", visitor.Page.QuerySelector("#rows")!.TextContent);

        await visitor.Send("#usual", new Dictionary<string, string> { ["rate"] = "96000", ["format"] = "Float32", ["countIn"] = "2", ["settle"] = "1", ["tail"] = "1.5", ["target"] = "-18" });
        Assert.Equal("96000", visitor.Page.QuerySelector("#usual [name=rate] [selected]")!.GetAttribute("value"));
        await visitor.Send("#usual", new Dictionary<string, string> { ["countIn"] = "9" });
        Assert.Equal("The count-in is 0 to 4 bars.", visitor.Notice);
        await visitor.Send("#usual", new Dictionary<string, string> { ["tail"] = "long" });
        Assert.Equal("The tail is 0 to 60 seconds.", visitor.Notice);
        Assert.Equal("2", visitor.Page.QuerySelector("#usual [name=countIn]")!.GetAttribute("value"));

        await visitor.Send("#begin-form", new Dictionary<string, string> { ["sources"] = "" });
        Assert.Equal("Choose at least one source for the session.", visitor.Notice);
        await visitor.Send("#begin-form", new Dictionary<string, string> { ["sources"] = "u1", ["name"] = "From my gear" });
        Assert.EndsWith("/split", new Uri(visitor.Page.BaseUri).AbsolutePath);
        Assert.Contains("96,000 Hz", visitor.Text);
        Assert.Contains("Separate", visitor.Page.QuerySelector("#drawing")!.TextContent);
        Assert.Equal(9, visitor.Page.QuerySelectorAll("#drawing a.track").Length);

        // Two windows: the later change is refused.
        await visitor.Get("/gear");
        await visitor.Send("#own form[action*=Remove]", new Dictionary<string, string> { ["revision"] = "1" });
        Assert.StartsWith("Your gear was changed in another window meanwhile", visitor.Notice);
        Assert.Single(visitor.Page.QuerySelectorAll(Owned));
        await visitor.Send("#own form[action*=Remove]");
        Assert.Empty(visitor.Page.QuerySelectorAll("#own"));
        await visitor.Send("#rows form[action*=Remove]");
        Assert.Empty(visitor.Page.QuerySelectorAll("#rows"));
    }

    [Fact]
    public async Task It_is_set_on_its_page_and_each_change_can_be_taken_back()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/gear");
        Assert.NotNull(visitor.Page.QuerySelector("#undo[disabled]"));
        await visitor.Send("form:has(#add-chart)", new Dictionary<string, string> { ["chart"] = "brindle-six" });
        await visitor.Send("#add-row", new Dictionary<string, string> { ["kind"] = "Analog", ["label"] = "Desk", ["count"] = "12" });
        var row = "form[action*=Edit]:has([name=bank]):has([name=widths])";
        await visitor.Send(row + ":has([value=Desk])", new Dictionary<string, string> { ["widths"] = "PairsOnly", ["count"] = "10" });
        await visitor.Send("form:has([name=bank]):has([name=on][value=false])", new Dictionary<string, string> { ["from"] = "9", ["to"] = "10", ["on"] = "false" });
        Assert.Contains("all but 9-10, pairs only", visitor.Page.QuerySelector("#rows")!.TextContent);

        await visitor.Send("form:has(#mode-u1)", new Dictionary<string, string> { ["mode"] = "full" });
        Assert.True(visitor.Page.QuerySelector("details:has(#mode-u1)")!.HasAttribute("open")); // it stays open while it is set
        Assert.Equal("Set Brindle Six to Full driver, sixteen channels", visitor.Page.QuerySelector("#board")!.GetAttribute("data-said"));
        await visitor.Send("form:has(#name-u1)", new Dictionary<string, string> { ["name"] = "The six" });
        await visitor.Send("form:has(#in-u1)", new Dictionary<string, string> { ["connected"] = "false" });
        await visitor.Send("form:has([name=channel])", new Dictionary<string, string> { ["channel"] = "1", ["count"] = "4", ["input"] = "3" });
        Assert.Contains("4 cables", visitor.Page.QuerySelector("#own")!.TextContent);
        Assert.Contains("1 in Desk 3, 2 in Desk 4, 3 in Desk 5, 4 in Desk 6", visitor.Page.QuerySelector("#own")!.TextContent);
        await visitor.Send("form:has([aria-label^='Fader of'])", new Dictionary<string, string> { ["value"] = "-7.5" });
        await visitor.Send("form:has([aria-label^='Fader of'])", new Dictionary<string, string> { ["value"] = "loud" });
        Assert.Equal("The fader needs a number.", visitor.Notice);
        await visitor.Send("#usual", new Dictionary<string, string> { ["pattern"] = "{session} {nn}" });
        await visitor.Send("#usual", new Dictionary<string, string> { ["pattern"] = "{name}" });
        Assert.StartsWith("A name can be made of {nn}", visitor.Notice);
        Assert.Equal("{session} {nn}", visitor.Page.QuerySelector("[name=pattern]")!.GetAttribute("value"));

        // A session from it is set so, in the form for a new session too, with a song of one's own; its files are called so.
        await visitor.Get("/");
        Assert.Contains("my The six", visitor.Page.QuerySelector("#first-box")!.TextContent);
        await visitor.Send("form:has(#new-name)", new Dictionary<string, string> { ["own"] = "u1", ["name"] = "", ["bars"] = "5", ["tempo"] = "90" });
        Assert.EndsWith("/sessions/1/split", new Uri(visitor.Page.BaseUri).AbsolutePath);
        Assert.Contains("The six", visitor.Page.QuerySelector("title")!.TextContent);
        await visitor.Get("/sessions/1/recorder");
        Assert.Contains("10 inputs", visitor.Page.QuerySelector("main")!.TextContent);
        await visitor.Get("/sessions/1/sources");
        Assert.Equal("full", visitor.Page.QuerySelector("[name=mode] [selected]")!.GetAttribute("value"));
        Assert.Equal("90", visitor.Page.QuerySelector("#song-tempo")!.GetAttribute("value"));

        // Each is taken back, the last one first, until there is nothing.
        await visitor.Get("/gear");
        await visitor.Send("form:has(#undo)");
        Assert.Equal("{nn} {element}", visitor.Page.QuerySelector("[name=pattern]")!.GetAttribute("value"));
        await visitor.Send("form:has(#undo)", new Dictionary<string, string> { ["revision"] = "3" });
        Assert.StartsWith("Your gear was changed in another window meanwhile", visitor.Notice);
        for (var i = 0; i < 9; i++)
        {
            Assert.NotNull(visitor.Page.QuerySelector("#own"));
            await visitor.Send("form:has(#undo)");
        }

        Assert.Null(visitor.Page.QuerySelector("#own"));
        Assert.NotNull(visitor.Page.QuerySelector("#undo[disabled]"));
    }

    [Fact]
    public async Task What_is_owned_goes_with_others_from_the_shelf_and_its_defaults_with_every_session()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        await visitor.Get("/gear");
        await visitor.Send("form:has(#add-chart)", new Dictionary<string, string> { ["chart"] = "siskin-mono" });
        await visitor.Send("form:has(#name-u1)", new Dictionary<string, string> { ["name"] = "Blue one" });
        await visitor.Send("#usual", new Dictionary<string, string> { ["rate"] = "88200", ["countIn"] = "3", ["pattern"] = "{session} {nn}" });
        await visitor.Get("/");
        await visitor.Send("form:has(#new-name)", new Dictionary<string, string> { ["own"] = "u1", ["charts"] = "wicker-keys" });
        await visitor.Get("/sessions/1/sources");
        Assert.Equal(["Blue one", "Wicker Keys"], visitor.Page.QuerySelectorAll("article.source h2").Select(h => h.TextContent));
        Assert.Contains("Blue one and Wicker Keys", visitor.Page.QuerySelector("title")!.TextContent);
        var charts = await visitor.NewSession("From the shelf alone");
        await visitor.Get($"{charts}/sources");
        Assert.Equal(["Mudlark Nine"], visitor.Page.QuerySelectorAll("article.source h2").Select(h => h.TextContent));
        Assert.Contains("88,200 Hz", visitor.Text);

        // What is owned stands first where the box is asked for, and what leaves is called as usual.
        await visitor.Get("/?ask=true");
        await visitor.Send("form:has(#first-box)", new Dictionary<string, string> { ["box"] = "own:u1" });
        Assert.EndsWith("/setup", new Uri(visitor.Page.BaseUri).AbsolutePath);
        Assert.Contains("“Blue one”", visitor.Text);
        await visitor.Get($"{charts}/print");
        Assert.Equal("3", visitor.Page.QuerySelector("[name=countin]")!.GetAttribute("value"));
        await visitor.Send("form[action*='handler=Start']");
        await visitor.WaitFor($"{charts}/print", p => p.QuerySelectorAll(".take-track").Length > 0, "it is printed");
        await visitor.Get($"{charts}/handoff");
        Assert.Equal("{session} {nn}", visitor.Page.QuerySelector("#ho-pattern")!.GetAttribute("value"));
        Assert.Contains("From the shelf alone 01", visitor.Text);
        await visitor.Get($"{charts}/handoff?pattern={{element}}");
        Assert.Equal("{element}", visitor.Page.QuerySelector("#ho-pattern")!.GetAttribute("value"));
    }

    [Fact]
    public async Task Gear_that_cannot_be_read_is_told_and_not_written_over()
    {
        await using var app = await PageApp.Start(demo: false);
        await using var database = Database.Open(app.ConnectionString);
        await using (var connection = await database.OpenConnectionAsync())
        {
            await connection.ExecuteAsync("insert into gear (revision, format, document) values (1, 99, '{}')");
        }

        using var visitor = new Visitor(app);
        await visitor.Get("/gear");
        Assert.StartsWith("Your gear cannot be read. The split has version 99 of the format", visitor.Notice);
        await visitor.Send("form:has(#add-chart)", new Dictionary<string, string> { ["chart"] = "mudlark-nine" });
        Assert.StartsWith("Your gear cannot be read, so nothing was changed in it.", visitor.Notice);
        await visitor.Get("/");
        await visitor.Send("form:has(#new-name)", new Dictionary<string, string> { ["own"] = "u1", ["name"] = "From it" });
        Assert.StartsWith("Your gear cannot be read, so no session begins from it. The split has version 99", visitor.Notice);
        Assert.StartsWith("/sessions/", await visitor.NewSession("Without it"));
        await using var again = await database.OpenConnectionAsync();
        Assert.Equal((1, 99), await again.QuerySingleAsync<(int, int)>("select revision, format from gear"));
    }
}

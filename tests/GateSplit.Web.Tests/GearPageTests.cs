using Dapper;
using GateSplit.Data;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>My gear without script. It is one document, so one test goes its whole way.</summary>
public sealed class GearPageTests
{
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
        Assert.Single(visitor.Page.QuerySelectorAll("#own tbody tr"));
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
        Assert.Equal("Choose at least one source of yours.", visitor.Notice);
        await visitor.Send("#begin-form", new Dictionary<string, string> { ["sources"] = "u1", ["name"] = "From my gear" });
        Assert.EndsWith("/split", new Uri(visitor.Page.BaseUri).AbsolutePath);
        Assert.Contains("96,000 Hz", visitor.Text);
        Assert.Contains("Separate", visitor.Page.QuerySelector("#drawing")!.TextContent);
        Assert.Equal(9, visitor.Page.QuerySelectorAll("#drawing a.track").Length);

        // Two windows: the later change is refused.
        await visitor.Get("/gear");
        await visitor.Send("#own tbody form", new Dictionary<string, string> { ["revision"] = "1" });
        Assert.StartsWith("Your gear was changed in another window meanwhile", visitor.Notice);
        Assert.Single(visitor.Page.QuerySelectorAll("#own tbody tr"));
        await visitor.Send("#own tbody form");
        Assert.Empty(visitor.Page.QuerySelectorAll("#own"));
        await visitor.Send("#rows tbody form");
        Assert.Empty(visitor.Page.QuerySelectorAll("#rows"));
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
        await using var again = await database.OpenConnectionAsync();
        Assert.Equal((1, 99), await again.QuerySingleAsync<(int, int)>("select revision, format from gear"));
    }
}

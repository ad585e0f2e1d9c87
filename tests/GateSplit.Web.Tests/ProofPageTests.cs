using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>A take is proved, its findings are mended and taken back, and meant so, without script.</summary>
public sealed class ProofPageTests(DemoApp demo)
{
    [Fact]
    public async Task Without_a_take_the_page_says_what_to_do()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Nothing to prove");
        await visitor.Get($"{path}/proof");
        Assert.Contains("There is no take yet.", visitor.Text);
        Assert.Contains("not begun", visitor.Page.QuerySelector("a.station[href$='/proof']")!.TextContent);
    }

    [Fact]
    public async Task A_clean_take_is_proved_on_request_and_says_so()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Clean");
        await Print(visitor, path);
        await visitor.Get($"{path}/proof");
        Assert.Contains("Nobody has listened to this take yet", visitor.Text);
        await Prove(visitor, path, "form:has(#prove)");
        Assert.StartsWith("All 9 files hold what their names say;", visitor.Page.QuerySelector("#verdict")!.TextContent);
        Assert.EndsWith("nothing to mend.", visitor.Page.QuerySelector("#verdict")!.TextContent);
        Assert.Equal(9, visitor.Page.QuerySelectorAll(".proof-tracks tbody tr").Length);
        Assert.Contains("ready", visitor.Page.QuerySelector("a.station[href$='/proof']")!.TextContent);
        Assert.Empty(visitor.Page.QuerySelectorAll("#mend-sure"));
    }

    [Fact]
    public async Task Exchanged_inputs_are_found_mended_proved_again_and_taken_back()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Exchanged");
        await visitor.Get($"{path}/split?line=track%3At1");
        var (one, other) = ("b-u1:3", "b-u1:4");
        await visitor.Send("form:has(#ins-input)", new Dictionary<string, string> { ["input"] = other });
        await visitor.Get($"{path}/split?line=track%3At2");
        await visitor.Send("form:has(#ins-input)", new Dictionary<string, string> { ["input"] = one });
        await Print(visitor, path);
        await visitor.Get($"{path}/proof");
        await Prove(visitor, path, "form:has(#prove)");
        Assert.StartsWith("7 of 9 files hold what their names say;", visitor.Page.QuerySelector("#verdict")!.TextContent);
        Assert.Contains("2 to mend", visitor.Page.QuerySelector("a.station[href$='/proof']")!.TextContent);
        var stale = visitor.Page.QuerySelector("form:has(#mend-sure)")!;
        await Prove(visitor, path, "form:has(#mend-sure)");
        Assert.Single(visitor.Page.QuerySelectorAll("#mends li"));
        Assert.StartsWith("All 9 files hold what their names say;", visitor.Page.QuerySelector("#verdict")!.TextContent);
        Assert.Contains("As printed: 7 of 9", visitor.Page.QuerySelector("#before-mends")!.TextContent);

        // Undo brings the findings back; redo takes them away.
        await Prove(visitor, path, "form:has(#undo-mend)");
        Assert.StartsWith("7 of 9", visitor.Page.QuerySelector("#verdict")!.TextContent);
        await Prove(visitor, path, "form:has(#redo-mend)");
        Assert.StartsWith("All 9", visitor.Page.QuerySelector("#verdict")!.TextContent);
        Assert.NotNull(stale);
    }

    [Fact]
    public async Task What_is_meant_so_is_no_longer_counted()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Meant");
        await visitor.Get($"{path}/split?line=track%3At1");
        await visitor.Send("form:has(#ins-input)", new Dictionary<string, string> { ["input"] = "b-u1:4" });
        await Print(visitor, path);
        await visitor.Get($"{path}/proof");
        await Prove(visitor, path, "form:has(#prove)");
        var before = visitor.Page.QuerySelectorAll(".proof-findings li.mark-warn").Length;
        Assert.InRange(before, 1, 9);
        await visitor.Send(".proof-findings li.mark-warn form:has(input[name='finding']):not(:has(input[name='seen']))");
        Assert.Equal(before - 1, visitor.Page.QuerySelectorAll(".proof-findings li.mark-warn").Length);
        await visitor.Send(".proof-findings form:has(input[name='back'])");
        Assert.Equal(before, visitor.Page.QuerySelectorAll(".proof-findings li.mark-warn").Length);
    }

    private static async Task Print(Visitor visitor, string path)
    {
        await visitor.Get($"{path}/print");
        await visitor.Send("#start");
        await visitor.WaitFor($"{path}/print", p => p.QuerySelectorAll(".take-track").Length == 9, "it is printed");
    }

    /// <summary>Sends a form that lets the take be proved, and waits until it is.</summary>
    private static async Task Prove(Visitor visitor, string path, string form)
    {
        await visitor.Send(form);
        await visitor.WaitFor($"{path}/proof", p => p.QuerySelector("#proof-job") is null && p.QuerySelector("#verdict") is not null, "the take is proved");
    }
}

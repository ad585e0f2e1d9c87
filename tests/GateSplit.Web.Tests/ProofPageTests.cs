using System.Text.Json;
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
        Assert.Contains("what can be put right in it is offered here", visitor.Text);
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
        Assert.Contains("2 to mend", Station(visitor));
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
    public async Task A_mend_is_heard_and_measured_before_it_is_kept()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("On trial");
        await Print(visitor, path);
        await visitor.Get($"{path}/proof");
        await Prove(visitor, path, "form:has(#prove)");
        var peak = Cells(visitor, "t1")[0];
        await visitor.Send("form:has([name='mend'])", new Dictionary<string, string> { ["mend"] = "gain", ["of"] = "t1", ["value"] = "-6" });
        await visitor.WaitFor($"{path}/proof", p => p.QuerySelector("#proof-job") is null && p.QuerySelector("#before-trial") is not null && !Station(visitor).Contains("running", StringComparison.Ordinal), "the take is proved with it");
        Assert.Equal("Kick −6.0 dB (on trial)", Assert.Single(visitor.Page.QuerySelectorAll("#mends li")).TextContent);
        Assert.Equal($"{Lower(peak, 6)}{peak}", Cells(visitor, "t1")[0]); // what it is over what it was
        Assert.Equal(5, Cells(visitor, "t2").Count(c => c.Length < 6)); // another track is as it was
        Assert.Contains("\"url\"", Row(visitor, "Kick").GetAttribute("data-mended"));
        Assert.Equal("", Row(visitor, "Kick").GetAttribute("data-before") ?? ""); // which is the printed file
        Assert.Equal("without it", visitor.Page.QuerySelector("#before")!.TextContent);

        Assert.Contains("on trial", Station(visitor));

        // Meanwhile nothing else is mended, and nothing of it leaves.
        Assert.Empty(visitor.Page.QuerySelectorAll("form:has([name='mend']), .proof-findings form:has([name='seen'])"));
        await visitor.Send("form:has(#undo-mend)");
        Assert.Equal("A mend is on trial. Keep it or take it back first.", visitor.Notice);
        await visitor.Get($"{path}/handoff");
        Assert.Contains("On trial at Proof, so not made in these files: Kick −6.0 dB.", visitor.Text);
        Assert.Null(visitor.Page.QuerySelector("#mended"));
        await visitor.Get($"{path}/print");
        Assert.Equal("", Row(visitor, "Kick").GetAttribute("data-mended"));

        // Taken back, what was said before is said again, without another look.
        await visitor.Get($"{path}/proof");
        await visitor.Send("form:has(#drop-mend)");
        Assert.Empty(visitor.Page.QuerySelectorAll("#mends, #trial, #proof-job"));
        Assert.Contains("ready", Station(visitor));
        Assert.Equal(peak, Cells(visitor, "t1")[0]);
        Assert.DoesNotContain("heard before the last mends", visitor.Text);

        // A second one, on top of one that was kept: without it, the first is still made.
        await visitor.Send("form:has([name='mend'])", new Dictionary<string, string> { ["mend"] = "gain", ["of"] = "t1", ["value"] = "-6" });
        await visitor.WaitFor($"{path}/proof", p => p.QuerySelector("#before-trial") is not null, "the take is proved with it");
        await visitor.Send("form:has(#keep-mend)");
        Assert.Empty(visitor.Page.QuerySelectorAll("#trial, #proof-job"));
        Assert.Equal(Lower(peak, 6), Cells(visitor, "t1")[0]);
        await visitor.Send("form:has([name='mend'])", new Dictionary<string, string> { ["mend"] = "move", ["of"] = "t1", ["value"] = "10", ["unit"] = "ms", ["way"] = "later" });
        await visitor.WaitFor($"{path}/proof", p => p.QuerySelector("#before-trial") is not null, "the take is proved with it");
        Assert.DoesNotContain("lengths", visitor.Text); // the end that moved was not recorded so
        var (with, without) = (Source(visitor, "data-mended"), Source(visitor, "data-before"));
        Assert.Equal(480 * 3, (await visitor.Bytes(with)).Length - (await visitor.Bytes(without)).Length); // 24 bit
        await visitor.Get($"{path}/handoff");
        Assert.Equal(["Kick −6.0 dB"], visitor.Page.QuerySelectorAll("#mended li").Select(l => l.TextContent));
        Assert.Contains("not made in these files: Kick 10.00 ms later.", visitor.Text);
        await visitor.Get($"{path}/print");
        Assert.Equal(without, Source(visitor, "data-mended"));
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

    private static List<string> Cells(Visitor visitor, string track) => [.. visitor.Page.QuerySelectorAll($"#proof-{track} td.num").Select(td => td.TextContent)];

    private static string Lower(string level, double by) => $"{double.Parse(level.Replace('−', '-')) - by:0.0}".Replace('-', '−');

    private static AngleSharp.Dom.IElement Row(Visitor visitor, string name) => visitor.Page.QuerySelector($".take-track[data-name='{name}'] .wave")!;

    private static string Station(Visitor visitor) => visitor.Page.QuerySelector("a.station[href$='/proof']")!.TextContent;

    private static string Source(Visitor visitor, string which) => JsonDocument.Parse(Row(visitor, "Kick").GetAttribute(which)!).RootElement.GetProperty("url").GetString()!;

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
        await visitor.WaitFor($"{path}/proof", p => p.QuerySelector("#proof-job") is null && p.QuerySelector("#verdict") is not null && !Station(visitor).Contains("running", StringComparison.Ordinal), "the take is proved");
    }
}

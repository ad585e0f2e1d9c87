using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>The line check without script: lines are walked, ticked and mended, and the room is set.</summary>
public sealed class LineCheckPageTests(DemoApp demo)
{
    [Fact]
    public async Task Lines_are_walked_and_ticked_one_after_the_other()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Checked");
        await visitor.Get($"{path}/line-check?walk=true");
        Assert.Contains("All 10 lines arrive where the split says, and nowhere else.", visitor.Text);
        Assert.Equal("0", visitor.Page.QuerySelector("#ticked")!.TextContent);
        await visitor.Get($"{path}/line-check?line=u1%2Fkick");
        await visitor.Send("form:has(#tick)");
        Assert.Equal("1", visitor.Page.QuerySelector("#ticked")!.TextContent);
        Assert.Contains("Snare", visitor.Page.QuerySelector("#line-title")!.TextContent);
        Assert.Contains("1 of 10 ticked", visitor.Page.QuerySelector("#route")!.TextContent);

        // A line that goes another way has lost its tick.
        await visitor.Get($"{path}/split?line=track%3At1");
        await visitor.Send("form:has(#ins-name), form:has(input[name='name'])", new Dictionary<string, string> { ["name"] = "Low drum" });
        await visitor.Get($"{path}/line-check");
        Assert.Equal("0", visitor.Page.QuerySelector("#ticked")!.TextContent);
    }

    [Fact]
    public async Task What_is_not_set_on_the_source_shows_in_the_walk_and_in_the_findings()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Settings");
        await visitor.Get($"{path}/line-check");
        await visitor.Send(".ticks li:first-child form");
        await visitor.Get($"{path}/line-check?walk=true");
        Assert.Contains("Kick does not arrive on Kick: it leaves Mudlark Nine by the main mix only.", visitor.Text);
        await visitor.Get($"{path}/split");
        Assert.Contains("1 setting of Mudlark Nine is not ticked yet.", visitor.Text);
        await visitor.Send(".finding form:has(input[value^='Settings'])");
        await visitor.Get($"{path}/line-check?walk=true");
        Assert.Contains("All 10 lines arrive", visitor.Text);
    }

    [Fact]
    public async Task In_a_new_session_nothing_is_set_yet_and_it_is_ticked_where_it_is_listed()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("New", ticked: false);
        Assert.Contains("2 settings of Mudlark Nine are not ticked yet.", visitor.Text);
        await visitor.Get($"{path}/sources");
        Assert.Equal(2, visitor.Page.QuerySelectorAll(".ticks li.is-open").Length);
        await visitor.Send(".ticks li:first-child form");
        await visitor.Send(".ticks li:last-child form");
        Assert.Empty(visitor.Page.QuerySelectorAll(".ticks li.is-open"));
        await visitor.Get($"{path}/split");
        Assert.DoesNotContain("not ticked", visitor.Text);
    }

    [Fact]
    public async Task Levels_are_trimmed_to_the_target_and_set_back_to_unity()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Levels");
        await visitor.Get($"{path}/line-check?walk=true");
        Assert.NotEmpty(visitor.Page.QuerySelectorAll(".too-hot"));
        await visitor.Send("form[action*='handler=Trim']");
        await visitor.Get($"{path}/line-check?walk=true");
        Assert.Empty(visitor.Page.QuerySelectorAll(".too-hot"));
        await visitor.Send("form[action*='handler=Unity']");
        await visitor.Send("form[action*='handler=Unity']");
        Assert.Equal("Every source fader that is printed is at unity already.", visitor.Notice);
        await visitor.Send("form:has(#target)", new Dictionary<string, string> { ["value"] = "3" });
        Assert.Equal("The target for peaks is -40 to 0 dBFS.", visitor.Notice);
    }

    [Fact]
    public async Task A_line_is_heard_as_sound()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Heard");
        var bytes = await visitor.Bytes($"{path}/line-check/listen?unit=u1&element=snare");
        Assert.Equal("RIFF"u8.ToArray(), bytes[..4]);
        Assert.Equal(44 + 2 * 48000 * 4, bytes.Length); // two seconds, two channels of two bytes
        Assert.Contains(bytes[44..20000], b => b != 0);
        await visitor.Get($"{path}/line-check/listen?unit=u1&element=nobody");
        Assert.Equal(System.Net.HttpStatusCode.NotFound, visitor.Status);
    }
}

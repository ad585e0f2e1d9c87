using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>What stands before a pass, and prints of other kinds, without script.</summary>
public sealed class PrintPageTests(DemoApp demo)
{
    [Fact]
    public async Task Before_a_pass_findings_are_mended_and_a_source_is_started_by_hand()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Before");
        await visitor.Get($"{path}/split?line=element%3Au1%2Fkick");
        await visitor.Send("form:has(#ins-fader)", new Dictionary<string, string> { ["value"] = "8" });
        await visitor.Get($"{path}/print");
        Assert.Contains("Before the pass", visitor.Text);
        Assert.Contains("1 bar counted in, heard and never recorded", visitor.Text);
        Assert.Contains("Kick's fader stands 8.0 dB above unity", visitor.Text);
        await visitor.Send(".before form:has(input[name='finding'])");
        Assert.Contains("Nothing to mend", visitor.Text);
        Assert.Empty(visitor.Page.QuerySelectorAll("input[name='offset']"));

        await visitor.Get($"{path}/sources");
        await visitor.Send("form:has(input[value='clock'])", new Dictionary<string, string> { ["clock"] = "Free" });
        await visitor.Get($"{path}/print");
        await visitor.Send("form:has(input[name='offset'])", new Dictionary<string, string> { ["offset"] = "250" });
        Assert.Equal("250", visitor.Page.QuerySelector("input[name='offset']")!.GetAttribute("value"));
        await visitor.Send("form:has(#pass-from)", new Dictionary<string, string> { ["from"] = "99" });
        Assert.StartsWith("A pass starts in one of its own bars", visitor.Notice);
        await visitor.Send("form:has(#pass-from)", new Dictionary<string, string> { ["from"] = "2" });
        Assert.Contains("recorded from bar 2", visitor.Text);
    }

    [Fact]
    public async Task A_print_of_which_every_file_would_be_silent_is_asked_for_once_more()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Silent");
        await visitor.Get($"{path}/sources");
        await visitor.Send(".note-route", new Dictionary<string, string> { ["from"] = "10", ["to"] = "3", ["keys"] = "0" });
        await visitor.Get($"{path}/print");
        await visitor.Send("#start");
        Assert.StartsWith("Every file of this print would be silent: nothing that plays in this song arrives on these tracks. The song plays nothing of Mudlark Nine", visitor.Notice);
        Assert.Empty(visitor.Page.QuerySelectorAll(".job-card, .take-track"));
        await visitor.Send("#would-be-silent form");
        await visitor.WaitFor($"{path}/print", p => p.QuerySelectorAll(".take-track").Length == 9, "it is printed all the same");
        Assert.All(visitor.Page.QuerySelectorAll(".take-numbers > span:nth-of-type(3)"), v => Assert.Equal("silent", v.TextContent));
    }

    [Fact]
    public async Task So_is_one_that_the_gear_would_leave_silent_because_its_settings_are_not_made()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Unset", ticked: false);
        await visitor.Get($"{path}/print");
        await visitor.Send("#start");
        Assert.StartsWith("Every file of this print would be silent: as the gear is set now, nothing arrives on these tracks. 2 settings of Mudlark Nine are not ticked yet.", visitor.Notice);

        // With the outputs set it still does not start by itself: that is the second setting.
        await visitor.Get($"{path}/sources");
        await visitor.Send(".ticks .is-open form");
        await visitor.Get($"{path}/print");
        await visitor.Send("#start");
        Assert.StartsWith("Every file of this print would be silent", visitor.Notice);
        await visitor.Get($"{path}/sources");
        await visitor.Send(".ticks .is-open form");
        await visitor.Get($"{path}/print");
        await visitor.Send("#start");
        await visitor.WaitFor($"{path}/print", p => p.QuerySelectorAll(".take-track").Length == 9, "it is printed at once");
    }

    [Fact]
    public async Task A_tempo_that_the_file_rounds_is_exact_or_as_the_file_has_it()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        await visitor.Send("form:has(#new-name)", new Dictionary<string, string> { ["name"] = "Ninety", ["charts"] = "mudlark-nine", ["tempo"] = "90" });
        var path = visitor.Page.Location.PathName.Replace("/split", "/print", StringComparison.Ordinal);
        await visitor.Get(path);
        Assert.Equal("90 a minute, exactly", visitor.Page.QuerySelector("#pass-tempo option[selected]")!.TextContent);
        await visitor.Send("form:has(#pass-tempo)", new Dictionary<string, string> { ["microsecond"] = "true" });
        Assert.Equal("666,667 µs a quarter, as the MIDI file has it", visitor.Page.QuerySelector("#pass-tempo option[selected]")!.TextContent);
    }

    [Fact]
    public async Task The_mix_of_a_source_is_printed_beside_its_lines_and_what_cannot_be_printed_is_said()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Mixes");
        await visitor.Get($"{path}/print");
        await visitor.Send("form:has(#start)", new Dictionary<string, string> { ["kind"] = "Stems" });
        Assert.StartsWith("Put the tracks into groups first", visitor.Notice);
        await visitor.Get($"{path}/print");
        await visitor.Send("form:has(#start)", new Dictionary<string, string> { ["kind"] = "Mix" });
        await visitor.WaitFor($"{path}/print", p => p.QuerySelectorAll(".take-track").Length > 0, "the mix is printed");
        Assert.Equal("Mudlark Nine mix", Assert.Single(visitor.Page.QuerySelectorAll(".take-track")).GetAttribute("data-name"));
        Assert.Contains("the mix of each source", visitor.Text);
        await visitor.Get($"{path}/print?show=before");
        Assert.Contains("Before the pass", visitor.Text);
    }
}

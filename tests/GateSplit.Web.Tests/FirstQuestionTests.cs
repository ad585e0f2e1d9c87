using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>The one question for who opens the program for the first time.</summary>
public sealed class FirstQuestionTests(DemoApp demo)
{
    [Fact]
    public async Task A_box_leads_to_a_checked_split_with_its_setup_sheet_and_it_is_not_asked_again()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        Assert.Contains("What do you have in front of you?", visitor.Text);
        await visitor.Send("form:has(#first-box)", new Dictionary<string, string> { ["box"] = "mudlark-nine" });
        Assert.EndsWith("/setup", new Uri(visitor.Page.BaseUri).AbsolutePath);
        Assert.Contains("Switch on “Mudlark Nine”, with nothing changed on it.", visitor.Text);
        Assert.Empty(visitor.Page.QuerySelectorAll("#to-mend")); // what is still to be set on the gear is what the sheet is for
        await visitor.Get("/");
        Assert.DoesNotContain("What do you have in front of you?", visitor.Text);
        await visitor.Get(visitor.Page.QuerySelector("#ask")!.GetAttribute("href")!);
        Assert.Contains("What do you have in front of you?", visitor.Text);
    }

    [Fact]
    public async Task A_recording_leads_to_where_it_is_brought_in()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        await visitor.Send("form:has(#first-recorded)", new Dictionary<string, string> { ["box"] = "heron-ten" });
        Assert.EndsWith("/print", new Uri(visitor.Page.BaseUri).AbsolutePath);
        Assert.StartsWith("The tracks are laid. Send the recording in here", visitor.Notice);
        Assert.NotEmpty(visitor.Page.QuerySelectorAll("form.bring-in"));
    }

    [Fact]
    public async Task Who_only_looks_hears_a_take_and_who_does_not_want_to_be_asked_is_not()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.WaitFor("/", p => p.QuerySelector("button[name=look]") is not null, "there is something to look at");
        await visitor.Send("button[name=look]");
        Assert.NotEmpty(visitor.Page.QuerySelectorAll(".take-track"));

        using var other = new Visitor(demo.App);
        await other.Get("/");
        await other.Send("#not-again");
        Assert.DoesNotContain("What do you have in front of you?", other.Text);
    }

    [Fact]
    public async Task Without_a_box_it_says_what_to_do_and_asks_on()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        await visitor.Send("form:has(#first-box)", new Dictionary<string, string> { ["box"] = "nothing" });
        Assert.Equal("Choose at least one source for the session.", visitor.Notice);
        Assert.Contains("What do you have in front of you?", visitor.Text);

        // Who looks for a session is not asked.
        await visitor.Get("/?find=lamp");
        Assert.DoesNotContain("What do you have in front of you?", visitor.Text);
    }
}

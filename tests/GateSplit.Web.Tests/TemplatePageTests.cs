using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using GateSplit.Core.Templates;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>Templates without script: kept, begun from, added, compared, exported and brought in.</summary>
public sealed class TemplatePageTests(DemoApp demo)
{
    [Fact]
    public async Task A_session_begins_from_a_template_with_the_same_split()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("The first");
        await Keep(visitor, path, "Begin here", "whole");
        Assert.StartsWith("Begin here is kept: a whole session: Mudlark Nine, ", visitor.Notice);
        await visitor.Get("/templates?find=begin here");
        Assert.Single(visitor.Page.QuerySelectorAll(".template svg"));
        await visitor.Send(".template form:has([name=name])", new Dictionary<string, string> { ["name"] = "The second" });
        var second = Start(visitor);
        Assert.NotEqual(path, second);
        Assert.Equal(await Sheet(visitor, path), await Sheet(visitor, second));
    }

    [Fact]
    public async Task A_template_of_a_source_is_looked_at_and_then_added()
    {
        using var visitor = new Visitor(demo.App);
        var drums = await visitor.NewSession("Drums");
        await Keep(visitor, drums, "My drums", "source u1");
        var id = await IdOf(visitor, "My drums");
        var keys = await visitor.NewSession("Keys", "wicker-keys");
        await visitor.Get($"{keys}/templates?add={id}");
        Assert.Contains("Mudlark Nine is not in this session: what is meant for it stays without an input.", visitor.Text);
        await visitor.Get($"{keys}/templates?add={id}&bring=u1");
        Assert.Contains("Mudlark Nine is brought along.", visitor.Text);
        Assert.Contains("Mudlark Nine comes along", visitor.Text);
        await visitor.Send("form:has(#add)");
        Assert.EndsWith("/split", new Uri(visitor.Page.BaseUri).AbsolutePath);
        Assert.Contains("Mudlark Nine", visitor.Text);
        Assert.Equal("Undo: Add the template My drums", visitor.Page.QuerySelector("#undo")!.GetAttribute("title"));
        await visitor.Send("form:has(#undo)");
        Assert.DoesNotContain("Mudlark Nine", visitor.Page.QuerySelector("#drawing")!.TextContent);

        // Looked at in one window while another changes the session: nothing is done.
        await visitor.Get($"{keys}/templates?add={id}&bring=u1");
        await visitor.Send("form:has(#add)", new Dictionary<string, string> { ["revision"] = "1" });
        Assert.Contains("changed in another window", visitor.Text);
    }

    [Fact]
    public async Task Versions_are_kept_under_one_name_and_what_changed_is_told()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Versions");
        await Keep(visitor, path, "Grows", "whole");
        await visitor.Get($"{path}/split?line=track%3At1");
        await visitor.Send("form:has(#ins-name), form:has(input[name='name'])", new Dictionary<string, string> { ["name"] = "Thud" });
        await Keep(visitor, path, "grows", "whole");
        Assert.StartsWith("grows is kept as version 2", visitor.Notice);
        var id = await IdOf(visitor, "Grows");
        await visitor.Get($"/templates/{id}");
        Assert.Equal(2, visitor.Page.QuerySelectorAll("#versions li").Length);
        var changed = visitor.Page.QuerySelectorAll("#changed li").Select(l => l.TextContent.Trim()).ToList();
        Assert.Equal(2, changed.Count);
        Assert.Contains("1 “Thud”", changed[0]);
        Assert.StartsWith("gone Tracks", changed[1]);
        await visitor.Send("#versions form");
        Assert.Equal("Version 1 is kept again, as version 3.", visitor.Notice);
        Assert.Equal(3, visitor.Page.QuerySelectorAll("#versions li").Length);

        await visitor.Send("form:has(#new-name)", new Dictionary<string, string> { ["name"] = "Grown" });
        Assert.Equal("It is renamed.", visitor.Notice);
        await visitor.Send("form:has(#new-name)", new Dictionary<string, string> { ["name"] = " " });
        Assert.Equal("A template needs a name of 1 to 80 letters.", visitor.Notice);
        await visitor.Get("/templates/999999");
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
    }

    [Fact]
    public async Task It_goes_out_as_a_file_and_comes_in_again_and_what_is_none_is_told()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Travels");
        await Keep(visitor, path, "Traveller", "outputs u1");
        var id = await IdOf(visitor, "Traveller");
        var file = await visitor.Bytes($"/templates/{id}.json");
        Assert.Equal(TemplateKind.Outputs, TemplateFile.Read(file).Value!.Kind);
        await visitor.Get("/templates");
        await visitor.Send("form:has(#template-file)", file: ("t.json", file));
        Assert.Equal("Traveller was brought in as version 2 of the template of that name.", visitor.Notice);
        var other = JsonNode.Parse(file)!.AsObject();
        other["name"] = "Newcomer";
        await visitor.Send("form:has(#template-file)", file: ("t.json", Encoding.UTF8.GetBytes(other.ToJsonString())));
        Assert.Equal("Newcomer was brought in.", visitor.Notice);
        other["version"] = 99;
        await visitor.Send("form:has(#template-file)", file: ("new.json", Encoding.UTF8.GetBytes(other.ToJsonString())));
        Assert.StartsWith("new.json: This template has version 99 of the format", visitor.Notice);
        await visitor.Send("form:has(#template-file)", file: ("x.json", "{]"u8.ToArray()));
        Assert.StartsWith("x.json: This is no template.", visitor.Notice);
        await visitor.Send("form:has(#template-file)");
        Assert.Equal("Choose a template file to bring in.", visitor.Notice);
    }

    [Fact]
    public async Task A_deleted_one_can_be_taken_back()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Deleting");
        await Keep(visitor, path, "Going and coming", "whole");
        await visitor.Get("/templates?find=going and");
        await visitor.Send(".template form[action*='handler=Delete']");
        Assert.StartsWith("The template is deleted.", visitor.Notice);
        await visitor.Get("/templates?find=going and");
        Assert.Contains("No template has “going and”", visitor.Text);
        await visitor.Send($"#deleted form:has(span:contains('Going and coming'))");
        await visitor.Get("/templates?find=going and");
        Assert.Single(visitor.Page.QuerySelectorAll(".template"));
        await visitor.Send(".template form:has([name=name])", new Dictionary<string, string> { ["name"] = " " });
        Assert.StartsWith("The session needs a name", visitor.Notice);
    }

    [Fact]
    public async Task A_template_without_a_name_is_refused_where_it_is_kept()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Nameless");
        await Keep(visitor, path, " ", "whole");
        Assert.Equal("A template needs a name of 1 to 80 letters.", visitor.Notice);
        await Keep(visitor, path, "Nothing", "source u9");
        Assert.Equal("This source is not in the split any more.", visitor.Notice);
    }

    [Fact]
    public async Task An_empty_clip_is_as_long_as_was_asked_where_no_notes_are_kept()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Clips");
        async Task<Template> Kept(string name, string clip, bool notes)
        {
            await visitor.Get($"{path}/templates");
            await visitor.Send("form:has(#keep)", new Dictionary<string, string> { ["name"] = name, ["what"] = "whole", ["clip"] = clip, ["notes"] = notes ? "true" : "false" });
            Assert.StartsWith($"{name} is kept", visitor.Notice);
            return TemplateFile.Read(await visitor.Bytes($"/templates/{await IdOf(visitor, name)}.json")).Value!;
        }

        var song = await Kept("As the song", "", notes: false);
        Assert.NotEqual(8, song.Split.Pass.LengthBars);
        var eight = await Kept("Eight bars", "8", notes: false);
        Assert.Equal((8, false), (eight.Split.Pass.LengthBars, eight.HasNotes));
        var notes = await Kept("With notes", "8", notes: true);
        Assert.Equal((song.Split.Pass.LengthBars, true), (notes.Split.Pass.LengthBars, notes.HasNotes));
        foreach (var clip in new[] { "0", "2001", "long", "-8" })
        {
            await visitor.Get($"{path}/templates");
            await visitor.Send("form:has(#keep)", new Dictionary<string, string> { ["name"] = "None", ["what"] = "whole", ["clip"] = clip });
            Assert.Equal("A clip is 1 to 2000 bars long.", visitor.Notice);
        }
    }

    [Fact]
    public async Task Tracks_whose_inputs_are_taken_are_heard_with_the_others_if_asked()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Taken");
        await Keep(visitor, path, "Once more", "source u1");
        var id = await IdOf(visitor, "Once more");
        await visitor.Get($"{path}/templates?add={id}&taken=nonsense");
        Assert.Contains("Track Kick 2 (the name Kick is taken) is made without an input, since USB 3 is heard by Kick already.", visitor.Text);
        await visitor.Get($"{path}/templates?add={id}&taken=Share");
        Assert.Contains("Track Kick 2 (the name Kick is taken) is made, on USB 3, which Kick hears too.", visitor.Text);
        await visitor.Send("form:has(#add)");
        Assert.Equal(2, visitor.Page.QuerySelectorAll("#drawing a.track").Count(t => t.TextContent.Contains("Kick", StringComparison.Ordinal)));
        await visitor.Get($"{path}/recorder");
        Assert.Contains("3 on, Kick, taken by Kick, Kick 2", visitor.Page.QuerySelectorAll(".input-switch").Select(b => b.GetAttribute("aria-label")));
    }

    private static async Task Keep(Visitor visitor, string path, string name, string what)
    {
        await visitor.Get($"{path}/templates");
        await visitor.Send("form:has(#keep)", new Dictionary<string, string> { ["name"] = name, ["what"] = what });
    }

    private static async Task<string> IdOf(Visitor visitor, string name)
    {
        await visitor.Get($"/templates?find={Uri.EscapeDataString(name)}");
        return visitor.Page.QuerySelector(".template h2 a")!.GetAttribute("href")!.Split('/')[^1];
    }

    private static string Start(Visitor visitor)
    {
        var path = visitor.Page.QuerySelector(".station")!.GetAttribute("href")!;
        return path[..path.LastIndexOf('/')];
    }

    /// <summary>All that is to be done for a session, without its name.</summary>
    private static async Task<string> Sheet(Visitor visitor, string path)
    {
        var text = Encoding.UTF8.GetString(await visitor.Bytes($"{path}/setup.txt"));
        return text[text.IndexOf('\n', StringComparison.Ordinal)..];
    }
}

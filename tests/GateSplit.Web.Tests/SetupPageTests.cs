using System.Net;
using System.Net.Http.Json;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>The setup sheet without script, and what a phone reaches.</summary>
public sealed class SetupPageTests(DemoApp demo)
{
    [Fact]
    public async Task Steps_are_ticked_and_stay_ticked_as_long_as_they_say_the_same()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("To set up");
        await visitor.Get($"{path}/setup");
        Assert.Contains("actions; one at a time the same takes", visitor.Text);
        var steps = visitor.Page.QuerySelectorAll(".setup li").Length;
        Assert.Contains($"0 of {steps} done", visitor.Text);
        var first = visitor.Page.QuerySelectorAll("input[name=on]")[0].GetAttribute("value")!;
        await visitor.Send(".setup", new Dictionary<string, string> { ["on"] = first });
        Assert.Contains($"1 of {steps} done", visitor.Text);
        Assert.Equal("Begin an empty song at 48 kHz, 24 bit.", visitor.Page.QuerySelector(".setup li:has(:checked) .setup-words")!.TextContent);

        // Another track: its steps are new, the one that was done is still done.
        await visitor.Get($"{path}/split");
        await visitor.Send("form:has([value='add-track']), form:has(button:contains('Add a track'))");
        await visitor.Get($"{path}/setup");
        Assert.Equal(1, visitor.Page.QuerySelectorAll(".setup li :checked").Length);

        // What is not ticked any more when the form comes is not done.
        await visitor.Send(".setup", new Dictionary<string, string> { ["on"] = "" });
        Assert.Empty(visitor.Page.QuerySelectorAll(".setup li :checked"));
    }

    [Fact]
    public async Task All_ticks_go_at_once_and_what_are_no_ticks_is_refused()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Unticked");
        await visitor.Get($"{path}/setup");
        var key = visitor.Page.QuerySelectorAll("input[name=on]")[2].GetAttribute("value")!;
        await visitor.Send(".setup", new Dictionary<string, string> { ["on"] = key });
        Assert.Single(visitor.Page.QuerySelectorAll(".setup li :checked"));
        await visitor.Send("form[action*='handler=Clear']");
        Assert.Equal("Nothing is ticked any more.", visitor.Notice);
        Assert.Empty(visitor.Page.QuerySelectorAll(".setup li :checked"));

        // What is no step of it is not kept, and who does not come from the page is refused.
        await visitor.Send(".setup", new Dictionary<string, string> { ["on"] = "0123456789abcdef01234567" });
        Assert.Equal("[]", System.Text.Encoding.UTF8.GetString(await visitor.Bytes($"{path}/setup/ticks")));
        await visitor.Send(".setup", new Dictionary<string, string> { ["on"] = key, ["__RequestVerificationToken"] = "forged" });
        Assert.Equal(HttpStatusCode.BadRequest, visitor.Status);
        Assert.Equal("[]", System.Text.Encoding.UTF8.GetString(await visitor.Bytes($"{path}/setup/ticks")));
        await visitor.Get("/sessions/999999/setup");
        Assert.Equal(HttpStatusCode.NotFound, visitor.Status);
    }

    [Fact]
    public async Task It_leaves_as_text_and_says_what_is_new_beside_another()
    {
        using var visitor = new Visitor(demo.App);
        var last = await visitor.NewSession("The last time");
        var path = await visitor.NewSession("This time");
        await visitor.Get($"{path}/setup");
        var text = System.Text.Encoding.UTF8.GetString(await visitor.Bytes($"{path}/setup.txt"));
        Assert.StartsWith("This time: setup sheet", text);
        Assert.Contains("[ ] 1. Begin an empty song at 48 kHz, 24 bit.", text);
        Assert.Equal(visitor.Page.QuerySelectorAll(".setup li").Length, text.Split("[ ]").Length - 1);

        var id = last[(last.LastIndexOf('/') + 1)..];
        await visitor.Get($"{path}/setup?beside={id}");
        Assert.Contains("Nothing is new: it is all as the last time.", visitor.Text);
        await visitor.Get($"{path}/split?line=track%3At1");
        await visitor.Send("form:has(#ins-name), form:has(input[name='name'])", new Dictionary<string, string> { ["name"] = "Low drum" });
        await visitor.Get($"{path}/setup?beside={id}");
        Assert.Contains("Only this step is new beside the last time", visitor.Text);
        Assert.Contains("“Low drum”", visitor.Page.QuerySelector(".setup li")!.TextContent);
        Assert.Contains("“Kick”", visitor.Page.QuerySelector("#gone")!.TextContent);
    }

    [Fact]
    public async Task Without_an_address_for_phones_it_says_how_to_get_one()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("No phone");
        await visitor.Get($"{path}/setup");
        Assert.Contains("./run --sheets 0.0.0.0", visitor.Text);
        Assert.Empty(visitor.Page.QuerySelectorAll(".qr"));
    }

    [Fact]
    public async Task A_phone_reaches_the_sheet_that_was_opened_and_nothing_else()
    {
        var port = TestApp.FreePort();
        await using var app = await TestApp.Start(demo: false, more: ["--sheets", $"127.0.0.1:{port}"]);
        using var visitor = new Visitor(app);
        var path = await visitor.NewSession("Beside the gear");
        await visitor.Get($"{path}/setup");
        await visitor.Send("form[action*='handler=Open']");
        var address = visitor.Page.QuerySelector(".qr")!.GetAttribute("href")!;
        Assert.StartsWith($"http://127.0.0.1:{port}/sheet/", address);
        Assert.Equal(32, address.Split('/')[^1].Length);

        using var phone = new Visitor(new Elsewhere(app, port));
        await phone.Get(new Uri(address).AbsolutePath);
        Assert.Contains("Beside the gear", phone.Text);
        var key = phone.Page.QuerySelectorAll("input[name=on]")[0].GetAttribute("value")!;
        await phone.Send(".setup", new Dictionary<string, string> { ["on"] = key });
        Assert.Contains("1 of ", phone.Text);
        await visitor.Get($"{path}/setup");
        Assert.Single(visitor.Page.QuerySelectorAll(".setup li :checked"));

        foreach (var other in new[] { "/", path + "/setup", path + "/split", path + "/setup/ticks", path + "/session.json", "/health/ready", "/shelf", "/sheet/0123456789abcdef0123456789abcdef", "/sheet/" })
        {
            await phone.Get(other);
            Assert.True(phone.Status == HttpStatusCode.NotFound, $"{other} shows {phone.Status}");
        }

        // Closed again, the address leads nowhere.
        await visitor.Send("form[action*='handler=Close']");
        await phone.Get(new Uri(address).AbsolutePath);
        Assert.Equal(HttpStatusCode.NotFound, phone.Status);
        using var answer = await app.Http.GetAsync(new Uri($"/sheet/{address.Split('/')[^1]}/ticks", UriKind.Relative));
        Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
    }

    [Fact]
    public async Task Two_who_tick_at_the_same_time_lose_nothing()
    {
        using var visitor = new Visitor(demo.App);
        var path = await visitor.NewSession("Two hands");
        await visitor.Get($"{path}/setup");
        var keys = visitor.Page.QuerySelectorAll("input[name=on]").Select(i => i.GetAttribute("value")!).ToList();
        var token = visitor.Page.QuerySelector(".setup input[name=__RequestVerificationToken]")!.GetAttribute("value")!;
        using var http = new HttpClient(new HttpClientHandler { CookieContainer = visitor.Cookies }) { BaseAddress = new Uri($"http://127.0.0.1:{demo.App.Port}") };
        await Task.WhenAll(keys.Select(async key =>
        {
            using var form = new FormUrlEncodedContent([KeyValuePair.Create("on", key), KeyValuePair.Create("__RequestVerificationToken", token)]);
            using var answer = await http.PostAsync(new Uri($"{path}/setup/ticks", UriKind.Relative), form);
            answer.EnsureSuccessStatusCode();
        }));
        Assert.Equal(keys.Order(), (await http.GetFromJsonAsync<List<string>>(new Uri($"{path}/setup/ticks", UriKind.Relative)))!.Order());
    }

    /// <summary>The same program through another door.</summary>
    private sealed class Elsewhere(IRunningApp app, int port) : IRunningApp
    {
        public int Port => port;

        public HttpClient Http => app.Http;

        public string ConnectionString => app.ConnectionString;

        public string Folder => app.Folder;

        public ValueTask DisposeAsync() => ValueTask.CompletedTask;
    }
}

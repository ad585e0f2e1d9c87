using System.Net;
using System.Net.WebSockets;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Data;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Web.Tests;

/// <summary>Whatever is asked, and however: an answer with a sentence and its headers, never a fault and never nothing.</summary>
public sealed class AnswerTests(DemoApp demo)
{
    public static TheoryData<string, string, int> Asked => new()
    {
        { "GET", "/missing", 404 },
        { "GET", "/sessions/999/split", 404 },
        { "POST", "/missing", 404 },
        { "POST", "/?handler=Delete", 400 },
        { "POST", "/sessions/1/split?handler=Edit", 400 },
        { "DELETE", "/sessions/1/split", 400 },
        { "PUT", "/audio/ffff", 405 },
        { "TRACE", "/", 405 },
        { "TRACE", "/sessions/1/split", 405 },
        { "PATCH", "/uploads/none", 400 },
        { "GET", "/sessions/1/live", 400 },
    };

    [Theory]
    [MemberData(nameof(Asked))]
    public async Task An_answer_has_a_sentence_and_its_headers(string method, string path, int status)
    {
        using var request = new HttpRequestMessage(new HttpMethod(method), new Uri(path, UriKind.Relative));
        if (path.StartsWith("/uploads", StringComparison.Ordinal))
        {
            request.Headers.Add("Tus-Resumable", "1.0.0");
        }

        using var reply = await demo.App.Http.SendAsync(request);
        Assert.Equal(status, (int)reply.StatusCode);
        Assert.Contains(".", await reply.Content.ReadAsStringAsync());
        AssertHeaders(reply);
    }

    [Fact]
    public async Task Every_answer_keeps_to_itself()
    {
        foreach (var path in new[] { "/", "/sessions/1/split", "/css/site.css", "/sessions/1/session.json", "/health/live" })
        {
            using var reply = await demo.App.Http.GetAsync(new Uri(path, UriKind.Relative));
            Assert.Equal(HttpStatusCode.OK, reply.StatusCode);
            AssertHeaders(reply);
        }
    }

    [Theory]
    [InlineData("audio")]
    [InlineData("logs")]
    [InlineData("keys")]
    [System.Runtime.Versioning.SupportedOSPlatform("linux")]
    public void What_is_kept_is_for_nobody_else_of_the_machine(string folder) => Assert.Equal(
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute | UnixFileMode.GroupRead | UnixFileMode.GroupExecute,
        File.GetUnixFileMode(Path.Combine(demo.App.Folder, folder)));

    [Theory]
    [InlineData("/?notice=Call+this+number")]
    [InlineData("/shelf?notice=Call+this+number")]
    [InlineData("/shelf/heron-ten?notice=Call+this+number")]
    [InlineData("/sessions/1/split?notice=Call+this+number&said=Call+this+number")]
    [InlineData("/sessions/1/print?notice=Call+this+number&said=Call+this+number")]
    public async Task An_address_puts_no_words_into_our_mouth(string path) =>
        Assert.DoesNotContain("Call this number", await demo.App.Http.GetStringAsync(new Uri(path, UriKind.Relative)));

    [Fact]
    public async Task A_notice_is_told_once_on_the_page_that_somebody_is_sent_to()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/");
        var rows = visitor.Page.QuerySelectorAll("tbody tr").Length;
        await visitor.Send("form[action*='handler=Rename']", new Dictionary<string, string> { ["name"] = "  " });
        Assert.Equal("A session needs a name of 1 to 120 characters.", visitor.Notice);
        Assert.Equal("/", visitor.Page.Location.PathName + visitor.Page.Location.Search);
        await visitor.Get("/");
        Assert.Equal(("", rows), (visitor.Notice, visitor.Page.QuerySelectorAll("tbody tr").Length));
    }

    [Fact]
    public async Task A_file_can_be_asked_about_without_being_fetched()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.WaitFor("/sessions/1/print", p => p.QuerySelectorAll(".take-track").Length == 12, "the demo take is printed");
        var hash = visitor.Page.QuerySelector(".take-track")!.GetAttribute("data-hash");
        await visitor.HandOff("/sessions/1");
        var zip = visitor.Page.QuerySelector(".made a")!.GetAttribute("href")!;
        foreach (var path in new[] { $"/audio/{hash}", zip, "/sessions/1/session.json" })
        {
            using var head = await demo.App.Http.SendAsync(new HttpRequestMessage(HttpMethod.Head, new Uri(path, UriKind.Relative)));
            Assert.Equal(HttpStatusCode.OK, head.StatusCode);
            Assert.NotNull(head.Content.Headers.ContentType);
            Assert.Empty(await head.Content.ReadAsByteArrayAsync());
        }
    }

    [Theory]
    [InlineData("null")]
    [InlineData("no address at all")]
    [InlineData("http://elsewhere.example")]
    public async Task A_socket_of_a_page_that_is_not_ours_is_refused(string origin)
    {
        using var socket = new ClientWebSocket();
        socket.Options.SetRequestHeader("Origin", origin);
        socket.Options.CollectHttpResponseDetails = true;
        await Assert.ThrowsAsync<WebSocketException>(() => socket.ConnectAsync(new Uri($"ws://127.0.0.1:{demo.App.Port}/sessions/1/live?ear=mix"), TestContext.Current.CancellationToken));
        Assert.Equal(HttpStatusCode.BadRequest, socket.HttpStatusCode);
    }

    [Fact]
    public async Task Names_without_end_and_forms_without_one_are_refused_with_a_sentence()
    {
        using var visitor = new Visitor(demo.App);
        var (name, file) = (new string('n', 20_000) + ".wav", new byte[10]);
        foreach (var (path, form) in new[] { ("/", "#new-name"), ("/shelf", "input[type=file]"), ("/sessions/1/print", "form.bring-in") })
        {
            await visitor.Get(path);
            await visitor.Send(form, new Dictionary<string, string> { ["name"] = "Long", ["charts"] = "heron-ten" }, (name, file));
            Assert.True(visitor.Status is HttpStatusCode.BadRequest or HttpStatusCode.OK, $"{path} answers {visitor.Status}");
            Assert.DoesNotContain("Something went wrong here", visitor.Text);
        }

        // A form without its end.
        foreach (var path in new[] { "/?handler=Create", "/sessions/1/bring-in/files?token=x", "/sessions/1/bring-in/gather", "/jobs/1/stop" })
        {
            using var half = new ByteArrayContent("--x\r\nContent-Disposition: form"u8.ToArray());
            half.Headers.TryAddWithoutValidation("Content-Type", "multipart/form-data; boundary=x");
            using var reply = await demo.App.Http.PostAsync(new Uri(path, UriKind.Relative), half);
            Assert.True((int)reply.StatusCode is 400 or 200, $"{path} answers {reply.StatusCode}");
            Assert.DoesNotContain("Something went wrong here", await reply.Content.ReadAsStringAsync());
        }
    }

    [Fact]
    public async Task More_files_than_are_taken_are_refused_and_none_of_them_is_kept()
    {
        using var visitor = new Visitor(demo.App);
        await visitor.Get("/sessions/1/print");
        var form = visitor.Page.QuerySelector("form.bring-in")!;
        using var handler = new HttpClientHandler { CookieContainer = visitor.Cookies };
        using var http = new HttpClient(handler) { BaseAddress = demo.App.Http.BaseAddress };
        using var content = new MultipartFormDataContent();
        for (var i = 0; i < 257; i++)
        {
            content.Add(new ByteArrayContent([1]), "recording", $"{i}.wav");
        }

        using var reply = await http.PostAsync(new Uri(form.GetAttribute("action")!, UriKind.Relative), content);
        Assert.Contains("More than 256 files came at once, which is the most that is taken. Nothing of them was kept.", await reply.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task The_list_is_paged_and_searched()
    {
        await using var app = await PageApp.Start(demo: false);
        await using var database = Database.Open(app.ConnectionString);
        var sessions = new SessionStore(database);
        var (song, split) = (MidiWriter.Write(LampLit.Session.Song), LampLit.Session.Split);
        for (var i = 1; i <= 53; i++)
        {
            await sessions.Create(i == 7 ? "100 % \\ done_so" : $"Song {i:00}", song, split);
        }

        using var visitor = new Visitor(app);
        string[] Names() => [.. visitor.Page.QuerySelectorAll("tbody .row-link").Select(l => l.TextContent)];
        await visitor.Get("/");
        Assert.Equal(50, Names().Length);
        Assert.Equal("Song 53", Names()[0]);
        Assert.Contains("1 to 50 of 53", visitor.Text);
        Assert.All(visitor.Page.QuerySelectorAll("tbody tr td:nth-child(2)"), c => Assert.Contains("12 tracks", c.TextContent));
        await visitor.Get(visitor.Page.QuerySelector("a[rel=next]")!.GetAttribute("href")!);
        Assert.Equal(["Song 03", "Song 02", "Song 01"], Names());
        Assert.Null(visitor.Page.QuerySelector("a[rel=next]"));
        await visitor.Get("/?at=99");
        Assert.Equal(3, Names().Length);
        await visitor.Get("/?at=-1&find=song+1");
        Assert.Equal(10, Names().Length);
        await visitor.Get("/?find=100+%25");
        Assert.Equal(["100 % \\ done_so"], Names());
        await visitor.Get("/?find=%5C");
        Assert.Single(Names());
        await visitor.Get("/?find=_s");
        Assert.Single(Names());
        await visitor.Get($"/?find={Uri.EscapeDataString(split.Units[0].Name.ToUpperInvariant())}");
        Assert.Equal(50, Names().Length);
        await visitor.Get("/?find=nowhere");
        Assert.Contains("No session has “nowhere” in its name or among its sources.", visitor.Text);

        // What the list shows is kept with the revision, and follows an edit, an undo and another build of the checks.
        var row = (await sessions.List("Song 01"))[0];
        Assert.True(row.IsKnown);
        await visitor.Get($"/sessions/{row.Id}/split?line=track%3At1");
        await visitor.Send("form:has(input[value='arm'])");
        var armed = (await sessions.List("Song 01"))[0];
        Assert.Equal((true, row.ToMend + 1), (armed.IsKnown, armed.ToMend));
        await using var connection = await database.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await using (var older = new NpgsqlCommand("update split_revisions set looked_by = 'an older build', to_mend = 99", connection))
        {
            await older.ExecuteNonQueryAsync(TestContext.Current.CancellationToken);
        }

        Assert.False((await sessions.List("Song 01"))[0].IsKnown);
        await visitor.Get("/?find=song+01");
        Assert.Equal((true, armed.ToMend), ((await sessions.List("Song 01"))[0].IsKnown, (await sessions.List("Song 01"))[0].ToMend));
    }

    [Fact]
    public async Task A_database_that_is_slow_is_not_told_as_one_that_is_away()
    {
        await using var app = await PageApp.Start(connection: ";Command Timeout=1");
        await using var database = Database.Open(app.ConnectionString);
        using var visitor = new Visitor(app);
        await visitor.Get("/sessions/2/split");
        await using (var connection = await database.OpenConnectionAsync(TestContext.Current.CancellationToken))
        await using (var transaction = await connection.BeginTransactionAsync(TestContext.Current.CancellationToken))
        {
            await using var hold = new NpgsqlCommand("lock table sessions in access exclusive mode", connection, transaction);
            await hold.ExecuteNonQueryAsync(TestContext.Current.CancellationToken);
            await visitor.Get("/sessions/2/split");
            Assert.Equal(HttpStatusCode.ServiceUnavailable, visitor.Status);
            Assert.Contains("The database takes too long to answer just now. Look again in a while.", visitor.Text);
        }

        await visitor.Get("/sessions/2/split");
        Assert.Equal(HttpStatusCode.OK, visitor.Status);
    }

    [Fact]
    public async Task A_waveform_that_is_gone_is_drawn_anew_and_a_recording_that_is_gone_is_told()
    {
        await using var app = await PageApp.Start();
        using var visitor = new Visitor(app);
        await visitor.WaitFor("/sessions/1/print", p => p.QuerySelectorAll(".take-track").Length == 12, "the demo take is printed");
        var waves = visitor.Page.QuerySelectorAll(".wave path").Select(p => p.GetAttribute("d")).ToList();
        Assert.All(waves, w => Assert.NotEmpty(w!));
        await using var database = Database.Open(app.ConnectionString);
        var tracks = (await new TakeStore(database).Of(1)).Single().Tracks;
        var store = new FolderAudioStore(Path.Combine(app.Folder, "audio"));
        store.Remove(tracks[0].OverviewHash);
        store.Remove(tracks[1].Hash);
        await visitor.Get("/sessions/1/print");
        Assert.Equal(waves, visitor.Page.QuerySelectorAll(".wave path").Select(p => p.GetAttribute("d")));
        Assert.NotNull(store.Find(tracks[0].OverviewHash));
        Assert.Equal("Its file is not in the audio store any more.", Assert.Single(visitor.Page.QuerySelectorAll(".take-damage li")).TextContent);
    }

    [Fact]
    public async Task A_take_that_downloads_is_not_deleted_and_a_session_takes_its_uploads_with_it()
    {
        await using var app = await PageApp.Start();
        using var visitor = new Visitor(app);
        await visitor.WaitFor("/sessions/1/print", p => p.QuerySelectorAll(".take-track").Length == 12, "the demo take is printed");
        await visitor.HandOff("/sessions/1");
        var address = visitor.Page.QuerySelector(".made a")!.GetAttribute("href")!;
        await visitor.Get("/sessions/1/print");
        using (var zip = await app.Http.GetAsync(new Uri(address, UriKind.Relative), HttpCompletionOption.ResponseHeadersRead))
        {
            await visitor.Send("form[action*='handler=Delete']");
            Assert.Equal("A zip with this take is being downloaded. Wait for its end, then delete the take.", visitor.Notice);
            await visitor.Get("/");
            await visitor.Send("form[action*='handler=Delete']:has(input[value='1'])");
            Assert.Equal("A zip of this session is being downloaded. Wait for its end, then delete the session.", visitor.Notice);
            Assert.True((await zip.Content.ReadAsByteArrayAsync()).Length > 1_000_000);
        }

        var staging = Path.Combine(app.Folder, "audio/staging");
        Directory.CreateDirectory(Path.Combine(staging, "arriving-00000000000000000000000000000001"));
        await File.WriteAllTextAsync(Path.Combine(staging, "arriving-00000000000000000000000000000001/about.json"), """{"sessionId":1,"fileName":"x.wav","length":100}""", TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(Path.Combine(staging, "arriving-00000000000000000000000000000001/data"), "", TestContext.Current.CancellationToken);
        await Waiting.Until(
            async () =>
            {
                await visitor.Get("/");
                await visitor.Send("form[action*='handler=Delete']:has(input[value='1'])");
                return visitor.Page.QuerySelector("form[action*='handler=Delete'] input[value='1']") is null;
            },
            "the session is gone once the download has ended");
        Assert.Empty(Directory.GetDirectories(staging));
        Assert.Empty(Directory.GetFiles(Path.Combine(app.Folder, "audio/files"), "*", SearchOption.AllDirectories));
    }

    private static void AssertHeaders(HttpResponseMessage reply)
    {
        Assert.Equal("same-origin", reply.Headers.GetValues("Cross-Origin-Opener-Policy").Single());
        Assert.Equal("same-origin", reply.Headers.GetValues("Cross-Origin-Resource-Policy").Single());
        Assert.Contains("microphone=()", reply.Headers.GetValues("Permissions-Policy").Single());
        Assert.Equal("nosniff", reply.Headers.GetValues("X-Content-Type-Options").Single());
        Assert.Contains("default-src 'self'", reply.Headers.GetValues("Content-Security-Policy").Single());
    }
}

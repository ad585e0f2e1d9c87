using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using Dapper;
using GateSplit.Core.Handoff;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Web.Tests;

/// <summary>A whole session comes in, is worked with and leaves again as it came; what is damaged leaves nothing behind.</summary>
public sealed class SessionTravelTests(DemoApp demo) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-travel-").FullName;

    private string Whole
    {
        get
        {
            var path = At("whole.zip");
            if (!File.Exists(path))
            {
                TravellingSession.Write(TravellingSession.Make(At("stairs")), path);
            }

            return path;
        }
    }

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public async Task A_session_comes_in_twice_as_two_and_leaves_as_it_came()
    {
        using var visitor = new Visitor(demo.App);
        var first = await BringIn(visitor, "stairs.zip", await File.ReadAllBytesAsync(Whole));
        Assert.Contains("Stairs, whole", visitor.Text);
        foreach (var station in new[] { "sources", "recorder", "split", "line-check", "roll-call", "print", "proof", "handoff" })
        {
            await visitor.Get($"{first}/{station}");
            Assert.Equal((station, HttpStatusCode.OK), (station, visitor.Status));
        }

        using var came = BundleReader.Open(Whole).Value!;
        using var left = await Leave(visitor, first, "first.zip");
        Assert.Equal(Plain(came.Session), Plain(left.Session));
        Assert.Equal(came.Revisions.Keys.Order(), left.Revisions.Keys.Order());
        Assert.All(came.Revisions, r => Assert.True(SplitJson.Same(r.Value.File.Split, left.Revisions[r.Key].File.Split) && r.Value.File.Song.SequenceEqual(left.Revisions[r.Key].File.Song)));
        Assert.Equal(came.Notes[1], left.Notes[1]);
        for (var i = 0; i < came.Tracks.Length; i++)
        {
            Assert.Null(came.TakeOut(came.Tracks[i].Track, At("a.wav"), CancellationToken.None));
            Assert.Null(left.TakeOut(left.Tracks[i].Track, At("b.wav"), CancellationToken.None));
            Assert.Equal(await File.ReadAllBytesAsync(At("a.wav")), await File.ReadAllBytesAsync(At("b.wav")));
        }

        // Undo goes back to the state that has a name, which is the only one on the way that came along.
        await visitor.Get($"{first}/split");
        Assert.Contains("before the takes", visitor.Text);

        // Another one: what is changed in it does not touch the first.
        var second = await BringIn(visitor, "stairs.zip", await File.ReadAllBytesAsync(Whole));
        Assert.NotEqual(first, second);
        await visitor.Get($"{second}/print");
        await visitor.Send("form[action*='handler=Delete']");
        using var again = await Leave(visitor, first, "again.zip");
        Assert.Equal(await File.ReadAllBytesAsync(At("first.zip")), await File.ReadAllBytesAsync(At("again.zip")));
    }

    [Fact]
    public async Task A_chart_that_comes_along_is_put_on_the_shelf_and_another_of_its_id_stays()
    {
        await using var app = await PageApp.Start();
        using var visitor = new Visitor(app);
        await BringIn(visitor, "stairs.zip", await File.ReadAllBytesAsync(Whole));
        Assert.Equal("The chart Tansy at home came with it and is on the shelf now.", visitor.Notice);
        await visitor.Get("/shelf/tansy-at-home");
        Assert.Contains("Tansy at home", visitor.Text);
        await BringIn(visitor, "stairs.zip", await File.ReadAllBytesAsync(Whole));
        Assert.Equal("", visitor.Notice);
        TravellingSession.Repack(Whole, At("other.zip"), files => files["charts/own.json"] = [.. System.Text.Encoding.UTF8.GetBytes(System.Text.Encoding.UTF8.GetString(files["charts/own.json"]).Replace("Tansy at home", "Tansy away"))]);
        await BringIn(visitor, "stairs.zip", await File.ReadAllBytesAsync(At("other.zip")));
        Assert.Equal("The shelf has another chart with the id tansy-at-home, which stays; the session has its own copy of Tansy away.", visitor.Notice);
    }

    [Theory]
    [InlineData("takes.0.mends.0.seconds", "601", "mends of take 1 do not fit it")]
    [InlineData("takes.1.revision", "6", "session.takes[1].revision")]
    [InlineData("takes.1.tracks.1.file", "\"bundle.json\"", "bundle.json is no WAVE file.")]
    public async Task What_is_damaged_is_refused_and_leaves_nothing_behind(string place, string value, string words)
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        var before = await Kept(app);
        TravellingSession.Repack(Whole, At("damaged.zip"), files => TravellingSession.Put(files, place, value));
        await Send(visitor, "broken.zip", await File.ReadAllBytesAsync(At("damaged.zip")));
        Assert.StartsWith("broken.zip was not brought in. ", visitor.Notice, StringComparison.Ordinal);
        Assert.Contains(words, visitor.Notice, StringComparison.OrdinalIgnoreCase);
        Assert.Equal(before, await Kept(app));
    }

    [Fact]
    public async Task What_is_no_session_is_told()
    {
        using var visitor = new Visitor(demo.App);
        await Send(visitor, "song.mid", "MThd"u8.ToArray());
        Assert.StartsWith("song.mid was not brought in. This is not an exported session", visitor.Notice, StringComparison.Ordinal);
        await Send(visitor, "empty.zip", []);
        Assert.StartsWith("empty.zip was not brought in. This is not an exported session", visitor.Notice, StringComparison.Ordinal);
        await visitor.Get("/");
        await visitor.Send("form.bring-in", new Dictionary<string, string> { ["session"] = "" });
        Assert.Equal("No file came with the form. Choose one first.", visitor.Notice);
        using var body = new MultipartFormDataContent { { new ByteArrayContent([1]), "session", "x.zip" } };
        using var stranger = await demo.App.Http.PostAsync(new Uri("/sessions/in/files?token=x", UriKind.Relative), body);
        Assert.Contains("The page is too old.", await stranger.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_session_without_audio_comes_in_too()
    {
        using var visitor = new Visitor(demo.App);
        var made = await visitor.NewSession("Without audio");
        var json = await visitor.Bytes($"{made}/session.json");
        var path = await BringIn(visitor, "quiet.json", json);
        Assert.NotEqual(made, path);
        Assert.Equal(json, await visitor.Bytes($"{path}/session.json"));
        using var zip = await Leave(visitor, path, "quiet.zip");
        Assert.Empty(zip.Session.Takes);
    }

    [Fact]
    public async Task A_download_that_breaks_off_goes_on_with_the_same_bytes_as_long_as_the_session_is_as_it_was()
    {
        using var visitor = new Visitor(demo.App);
        var path = await BringIn(visitor, "stairs.zip", await File.ReadAllBytesAsync(Whole));
        var address = new Uri($"{path}/session.zip", UriKind.Relative);
        using var all = await demo.App.Http.GetAsync(address);
        var (whole, tag) = (await all.Content.ReadAsByteArrayAsync(), all.Headers.ETag!);
        Assert.Equal(("Stairs, whole session.zip", whole.Length), (all.Content.Headers.ContentDisposition!.FileName!.Trim('"'), all.Content.Headers.ContentLength));
        var random = new Random(9);
        for (var at = 0; at < 10; at++)
        {
            var from = at == 0 ? 1 : at == 9 ? whole.Length - 1 : random.Next(whole.Length);
            Assert.Equal((HttpStatusCode.PartialContent, whole.Length - from), await Rest(address, from, tag) is var (status, bytes) && whole.AsSpan(from).SequenceEqual(bytes) ? (status, bytes.Length) : default);
        }

        await visitor.Get($"{path}/split?line=track%3At1");
        await visitor.Send("form:has(#ins-name)", new Dictionary<string, string> { ["name"] = "Changed since" });
        Assert.Equal(HttpStatusCode.OK, (await Rest(address, 5, tag)).Status);
    }

    [Fact]
    public async Task A_session_whose_recording_is_gone_does_not_leave_as_if_it_were_whole()
    {
        await using var app = await PageApp.Start();
        using var visitor = new Visitor(app);
        var path = await BringIn(visitor, "stairs.zip", await File.ReadAllBytesAsync(Whole));
        await using (var database = new NpgsqlConnection(app.ConnectionString))
        {
            var hash = await database.ExecuteScalarAsync<string>("select hash from take_tracks where name = 'Line 3'");
            File.Delete(Path.Combine(app.Folder, "audio/files", hash![..2], hash));
        }

        using var reply = await app.Http.GetAsync(new Uri($"{path}/session.zip", UriKind.Relative));
        Assert.Equal(HttpStatusCode.Gone, reply.StatusCode);
        Assert.StartsWith("This session cannot leave whole: takes/1/03 Line 3.wav is not in the audio store any more.", await reply.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await app.Http.GetAsync(new Uri("/sessions/99/session.zip", UriKind.Relative))).StatusCode);
    }

    [Fact]
    public async Task From_a_shell_a_session_comes_in_and_leaves()
    {
        using var visitor = new Visitor(demo.App);
        var at = $"http://127.0.0.1:{demo.App.Port}";
        var address = Shell("session", "in", Whole, "--at", at).Trim();
        var number = address.Split('/')[^2];
        Assert.Equal(At("out.zip"), Shell("session", "out", number, "--out", At("out.zip"), "--at", at).Trim());
        Assert.Equal(await visitor.Bytes($"/sessions/{number}/session.zip"), await File.ReadAllBytesAsync(At("out.zip")));
        await File.WriteAllTextAsync(At("no.zip"), "PK");
        Assert.Contains("no.zip was not brought in.", Refused("session", "in", At("no.zip"), "--at", at));
        Assert.Equal("gatesplit: There is no session 9999.\n", Refused("session", "out", "9999", "--out", At("none.zip"), "--at", at));
        Assert.Contains("does not answer", Refused("session", "in", Whole, "--at", "http://127.0.0.1:1"));
        Assert.Contains("is no address", Refused("session", "in", Whole, "--at", "here"));
        Assert.Empty(Directory.GetFiles(_folder, "none*"));
    }

    private static string[] Gatesplit(string[] arguments) => [Path.Combine(AppContext.BaseDirectory, "../../../../../src/GateSplit.Cli/bin/Release/net10.0/gatesplit.dll"), .. arguments];

    private static string Shell(params string[] arguments) => Programs.Run("dotnet", Gatesplit(arguments));

    private static string Refused(params string[] arguments) => Programs.RunRefused("dotnet", Gatesplit(arguments));

    private string At(string name) => Path.Combine(_folder, name);

    private async Task<(HttpStatusCode Status, byte[] Bytes)> Rest(Uri address, long from, EntityTagHeaderValue tag)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, address);
        request.Headers.Range = new RangeHeaderValue(from, null);
        request.Headers.IfRange = new RangeConditionHeaderValue(tag);
        using var reply = await demo.App.Http.SendAsync(request);
        return (reply.StatusCode, await reply.Content.ReadAsByteArrayAsync());
    }

    private async Task<BundleReader> Leave(Visitor visitor, string path, string name)
    {
        await File.WriteAllBytesAsync(At(name), await visitor.Bytes($"{path}/session.zip"));
        Programs.Run("unzip", "-tqq", At(name));
        return BundleReader.Open(At(name)).Value!;
    }

    /// <summary>Sends a file and waits until it is told what came of it.</summary>
    private static async Task Send(Visitor visitor, string name, byte[] bytes)
    {
        await visitor.Get("/");
        await visitor.Send("form.bring-in", file: (name, bytes));
        if (visitor.Page.QuerySelector("#arriving") is not null)
        {
            await visitor.WaitFor(visitor.Page.Location.PathName + visitor.Page.Location.Search, p => p.QuerySelector("#arriving") is null, "the session is brought in");
        }
    }

    /// <summary>Brings a session in, and shows its split.</summary>
    /// <returns>The start of the addresses of its pages.</returns>
    private static async Task<string> BringIn(Visitor visitor, string name, byte[] bytes)
    {
        await Send(visitor, name, bytes);
        var path = visitor.Page.Location.PathName;
        Assert.EndsWith("/split", path, StringComparison.Ordinal);
        return path[..path.LastIndexOf('/')];
    }

    /// <summary>All that a session leaves in the database and in the folders.</summary>
    private static async Task<string> Kept(IRunningApp app)
    {
        await using var database = new NpgsqlConnection(app.ConnectionString);
        var rows = await database.QueryAsync<long>(
            "select count(*) from sessions union all select count(*) from takes union all select count(*) from audio_files union all select count(*) from charts union all select count(*) from held_files union all select count(*) from songs");
        var folders = new[] { "audio/files", "audio/staging" }.Select(f => Directory.GetFiles(Path.Combine(app.Folder, f), "*", SearchOption.AllDirectories).Length);
        return string.Join(' ', rows.Concat(folders.Select(f => (long)f)));
    }

    /// <summary>What a session says of itself, but for how the files in the zip are called.</summary>
    private static string Plain(SessionBundle session) => JsonSerializer.Serialize(JsonDocument.Parse((session with
    {
        Revisions = [.. session.Revisions.OrderBy(r => r.Number).Select(r => r with { File = "" })],
        Takes = [.. session.Takes.Select(t => t with { Notes = t.Notes is null ? null : "", Tracks = [.. t.Tracks.Select(l => l with { File = "" })] })],
        Charts = [],
    }).ToJson()), new JsonSerializerOptions { WriteIndented = true });
}

using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.WebSockets;
using System.Text.RegularExpressions;
using Dapper;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Data;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.PageBench;

/// <summary>
/// Many people at one server: each edits a session every two seconds, looks at pages and fetches audio meanwhile. Then a long list, a long
/// history, and many who listen to one session. What the people themselves cost is in the figures: they run on the same machine.
/// </summary>
internal static partial class Crowd
{
    private const int People = 50;
    private const int Listeners = 60;
    private const int ManySessions = 2000;
    private const int ManyEdits = 5000;
    private static readonly TimeSpan Lasts = TimeSpan.FromMinutes(1);
    private static readonly TimeSpan Between = TimeSpan.FromSeconds(2);
    private static readonly string[] Stations = ["sources", "recorder", "split", "line-check", "print", "handoff"];

    public static async Task Run()
    {
        await using var app = await TestApp.Start();
        await using var database = Database.Open(app.ConnectionString);
        var (sessions, takes) = (new SessionStore(database), new TakeStore(database));
        var fog = FogSignal.Session;
        var song = MidiWriter.Write(fog.Song);
        var ids = new List<long>();
        for (var person = 1; person <= People; person++)
        {
            ids.Add(await sessions.Create($"Session {person}", song, fog.Split));
        }

        while ((await takes.Of(1)).Count == 0)
        {
            await Task.Delay(300);
        }

        // A server that was just started compiles what it does for the first time; somebody has been there before the crowd.
        using (var first = new Person(app.Port, ids[0], [], new Random(0)))
        {
            for (var round = 0; round < 60; round++)
            {
                await first.Edit(CancellationToken.None);
                await first.Look($"/sessions/{ids[0]}/{Stations[round % Stations.Length]}", first.Pages);
            }
        }

        var audio = (await takes.Of(1))[0].Tracks.Select(t => $"/audio/{t.Hash}").ToArray();
        await Edits(app, ids, audio);
        await List(app, database, ids[0]);
        await History(app, sessions, fog, song);
        await Listening(app, database);
    }

    private static async Task Edits(TestApp app, List<long> ids, string[] audio)
    {
        var people = ids.Select((id, i) => new Person(app.Port, id, audio, new Random(i))).ToList();
        using var over = new CancellationTokenSource(Lasts);
        await Task.WhenAll(people.Select(p => p.Act(over.Token)));
        var edits = people.SelectMany(p => p.Edits).Order().ToList();
        var pages = people.SelectMany(p => p.Pages).Order().ToList();
        var errors = people.SelectMany(p => p.Errors).ToList();
        Console.WriteLine(string.Create(
            CultureInfo.InvariantCulture,
            $"  {People} people for a minute: {edits.Count} edits, {edits[edits.Count / 2]:0} ms median, {edits[edits.Count * 95 / 100]:0} ms p95; {pages.Count} pages, {pages[pages.Count / 2]:0} ms median, {pages[pages.Count * 95 / 100]:0} ms p95; {errors.Count} errors{(errors.Count > 0 ? ": " + errors[0] : "")}"));
    }

    private static async Task List(TestApp app, NpgsqlDataSource database, long like)
    {
        await using (var connection = await database.OpenConnectionAsync())
        {
            await connection.ExecuteAsync(
                """
                with made as (
                    insert into sessions (name, song, revision) select 'Many ' || n, song, 1 from sessions, generate_series(1, @ManySessions) n where id = @like returning id)
                insert into split_revisions (session_id, revision, edit, document, format)
                select made.id, 1, 'New session', r.document, r.format from made, split_revisions r where r.session_id = @like and r.revision = 1
                """,
                new { like, ManySessions });
        }

        foreach (var (what, address) in new[] { ("first page", "/"), ("a page in the middle", "/?at=20"), ("a search", "/?find=many+19") })
        {
            var times = new List<double>();
            for (var round = 0; round < 60; round++)
            {
                var started = Stopwatch.GetTimestamp();
                await app.Http.GetStringAsync(new Uri(address, UriKind.Relative));
                times.Add(Stopwatch.GetElapsedTime(started).TotalMilliseconds);
            }

            var warm = times.Skip(10).Order().ToList();
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  list of {ManySessions:#,0} sessions, {what}: {times[0]:0} ms the first time, then {warm[warm.Count / 2]:0.0} ms median"));
        }
    }

    private static async Task History(TestApp app, SessionStore sessions, DemoSession fog, byte[] song)
    {
        var id = await sessions.Create("Long", song, fog.Split);
        var started = Stopwatch.GetTimestamp();
        for (var revision = 1; revision < ManyEdits; revision++)
        {
            await sessions.Save(id, revision, fog.Split with { Pass = fog.Split.Pass with { LengthBars = revision % 500 + 1 } }, $"edit {revision}");
        }

        var each = Stopwatch.GetElapsedTime(started).TotalMilliseconds / ManyEdits;
        using var person = new Person(app.Port, id, [], new Random(1));
        for (var i = 0; i < 20; i++)
        {
            await person.Edit(CancellationToken.None);
        }

        var kept = (await sessions.History(id, int.MaxValue)).Count;
        Console.WriteLine(string.Create(
            CultureInfo.InvariantCulture,
            $"  {ManyEdits:#,0} revisions of one session: {each:0.0} ms each to keep, {kept} of them stay, then {person.Edits.Order().ElementAt(10):0} ms median for an edit, page and all"));
    }

    private static async Task Listening(TestApp app, NpgsqlDataSource database)
    {
        var sockets = new List<ClientWebSocket>();
        using var over = new CancellationTokenSource();
        for (var i = 0; i < Listeners; i++)
        {
            var socket = new ClientWebSocket();
            await socket.ConnectAsync(new Uri($"ws://127.0.0.1:{app.Port}/sessions/2/live?ear=mix"), CancellationToken.None);
            sockets.Add(socket);
            _ = Drain(socket, over.Token);
        }

        async Task<long> Commits()
        {
            await using var connection = await database.OpenConnectionAsync();
            return await connection.ExecuteScalarAsync<long>("select xact_commit from pg_stat_database where datname = current_database()");
        }

        await Task.Delay(2000);
        var (before, started) = (await Commits(), Stopwatch.GetTimestamp());
        await Task.Delay(5000);
        var rate = (await Commits() - before) / Stopwatch.GetElapsedTime(started).TotalSeconds;
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {Listeners} who listen to one session: {rate:0} transactions a second"));
        await over.CancelAsync();
        sockets.ForEach(s => s.Dispose());
    }

    private static async Task Drain(ClientWebSocket socket, CancellationToken over)
    {
        var buffer = new byte[1 << 16];
        try
        {
            while (true)
            {
                await socket.ReceiveAsync(buffer, over);
            }
        }
        catch (Exception e) when (e is OperationCanceledException or WebSocketException or ObjectDisposedException)
        {
            // It is over.
        }
    }

    /// <summary>Somebody at work.</summary>
    private sealed partial class Person(int port, long session, string[] audio, Random random) : IDisposable
    {
        private readonly HttpClient _http = new(new HttpClientHandler { CookieContainer = new CookieContainer(), AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{port}"),
            Timeout = TimeSpan.FromSeconds(60),
        };

        private string _form = "";

        public List<double> Edits { get; } = [];

        public List<double> Pages { get; } = [];

        public List<string> Errors { get; } = [];

        public async Task Act(CancellationToken over)
        {
            await Task.Delay(random.Next(2000), CancellationToken.None);
            while (!over.IsCancellationRequested)
            {
                var next = Task.Delay(Between, CancellationToken.None);
                await Edit(over);
                await Look($"/sessions/{session}/{Stations[random.Next(Stations.Length)]}", Pages);
                await Look(audio[random.Next(audio.Length)], null);
                await next;
            }

            Dispose();
        }

        /// <summary>Arms a track or takes it back, as a click on the page does.</summary>
        public async Task Edit(CancellationToken over)
        {
            if (_form.Length == 0)
            {
                _form = FormOf(await _http.GetStringAsync(new Uri($"/sessions/{session}/split?line=track%3At1", UriKind.Relative), CancellationToken.None));
            }

            using var content = new FormUrlEncodedContent(Field().Matches(_form).Select(m => new KeyValuePair<string, string>(m.Groups["name"].Value, WebUtility.HtmlDecode(m.Groups["value"].Value))));
            using var request = new HttpRequestMessage(HttpMethod.Post, new Uri($"/sessions/{session}/split?line=track%3At1&handler=Edit", UriKind.Relative)) { Content = content };
            request.Headers.Add("HX-Request", "true");
            var started = Stopwatch.GetTimestamp();
            using var reply = await _http.SendAsync(request, CancellationToken.None);
            var page = await reply.Content.ReadAsStringAsync(CancellationToken.None);
            Edits.Add(Stopwatch.GetElapsedTime(started).TotalMilliseconds);
            _form = FormOf(page);
            if (reply.StatusCode != HttpStatusCode.OK || _form.Length == 0 || page.Contains("changed in another window", StringComparison.Ordinal))
            {
                Errors.Add($"an edit of session {session} answers {reply.StatusCode}");
            }
        }

        public void Dispose() => _http.Dispose();

        public async Task Look(string address, List<double>? times)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, new Uri(address, UriKind.Relative));
            if (times is null)
            {
                request.Headers.Range = new(0, 65_535);
            }

            var started = Stopwatch.GetTimestamp();
            using var reply = await _http.SendAsync(request);
            await reply.Content.ReadAsByteArrayAsync();
            times?.Add(Stopwatch.GetElapsedTime(started).TotalMilliseconds);
            if (reply.StatusCode is not (HttpStatusCode.OK or HttpStatusCode.PartialContent))
            {
                Errors.Add($"{address} answers {reply.StatusCode}");
            }
        }

        private static string FormOf(string page) => ArmForm().Match(page).Value;

        [GeneratedRegex("<form method=\"post\" action=\"[^\"]*handler=Edit\"><input type=\"hidden\" name=\"edit\" value=\"arm\">.*?</form>", RegexOptions.Singleline | RegexOptions.ExplicitCapture, 1000)]
        private static partial Regex ArmForm();

        [GeneratedRegex("name=\"(?<name>[^\"]*)\"[^>]* value=\"(?<value>[^\"]*)\"", RegexOptions.ExplicitCapture, 1000)]
        private static partial Regex Field();
    }
}

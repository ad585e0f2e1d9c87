using System.Diagnostics;
using System.Globalization;
using GateSplit.Bench;
using GateSplit.Browser.Tests;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Data;
using GateSplit.PageBench;
using GateSplit.Tests.Shared;
using Npgsql;

// GateSplit.PageBench crowd is many people at one server. Otherwise:
// Times the split page of a running application: what the server takes for 128 lines, asked by a client beside it, and
// what a person waits from a click on "armed" until the new drawing is in the page, with 64 lines in Chromium.
if (args is ["crowd"])
{
    await Crowd.Run();
    return;
}

const int rounds = 100;
const int clicks = 40;
await using var app = await TestApp.Start(demo: false);
await using var database = NpgsqlDataSource.Create(app.ConnectionString);
var sessions = new SessionStore(database);
var song = MidiWriter.Write(new PatternWriter(480, Tempo.Default, Metre.Common).ToFile("Empty", 4));
var large = await sessions.Create("Large", song, LargeSource.Split(elements: 128, ports: 128, tracks: 128).Split);
var middle = await sessions.Create("Middle", song, LargeSource.Split(elements: 64, ports: 64, tracks: 64).Split);

var address = new Uri($"/sessions/{large}/split", UriKind.Relative);
var bytes = 0;
var served = new List<double>();
for (var round = 0; round < 10 * rounds; round++)
{
    var started = Stopwatch.GetTimestamp();
    bytes = (await app.Http.GetByteArrayAsync(address)).Length;
    served.Add(Stopwatch.GetElapsedTime(started).TotalMilliseconds);
}

Tell($"split page, 128 lines, {bytes / 1000} KB, from the server", served.Skip(9 * rounds));

using var browser = new Browser(app.Port);
browser.Open($"/sessions/{middle}/split");
browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(20);
var waited = new List<double>();
for (var click = 0; click < clicks; click++)
{
    waited.Add(Convert.ToDouble(
        browser.Driver.ExecuteAsyncScript("""
            const done = arguments[0];
            const button = document.querySelector('#lines button[id^="arm-"]');
            document.addEventListener("htmx:afterSettle", () => requestAnimationFrame(() => done(performance.now() - from)), { once: true });
            const from = performance.now();
            button.click();
            """),
        CultureInfo.InvariantCulture));
}

Tell("click to new drawing, 64 lines, in Chromium", waited.Skip(clicks / 4));

static void Tell(string what, IEnumerable<double> times)
{
    var sorted = times.Order().ToList();
    Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {what,-56} {sorted[sorted.Count / 2],7:0.0} ms median   {sorted[0],7:0.0} ms best"));
}

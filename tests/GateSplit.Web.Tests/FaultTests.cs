using System.Net;
using System.Text.Json;
using GateSplit.Core.Splits;
using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Tests.Shared;

namespace GateSplit.Web.Tests;

/// <summary>Killed, disk full, database away: a sentence where the user is, nothing lost, nothing half-written.</summary>
public sealed class FaultTests
{
    [Fact]
    public async Task Killed_in_the_middle_of_a_print_it_is_told_and_nothing_half_written_is_left()
    {
        await using var app = await TestApp.Start(demo: false);
        using var visitor = new Visitor(app);
        var path = await LongSession(visitor);
        await visitor.Send("#start");
        await visitor.WaitFor(path, Running, "it prints");
        app.Kill();

        // An upload that was under way, too.
        var upload = Directory.CreateDirectory(Path.Combine(app.Folder, "audio/staging/upload-1"));
        await File.WriteAllTextAsync(Path.Combine(upload.FullName, "recording.wav"), "RIFF");
        await app.Launch(demo: false);
        await visitor.WaitFor(path, p => p.QuerySelector("#job-end") is not null && !Directory.Exists(upload.FullName), "the interruption is told and the upload is gone");
        Assert.Contains("The program ended while this ran. Nothing half-written was kept; start it again.", visitor.Text);
        Assert.Empty(visitor.Page.QuerySelectorAll(".take-track"));
        Assert.Empty(Directory.GetFiles(Path.Combine(app.Folder, "audio"), "*", SearchOption.AllDirectories));

        await visitor.Send("form[action*='Pass']", new Dictionary<string, string> { ["bars"] = "2" });
        await visitor.Send("#start");
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 12, "it prints after all");
    }

    [Fact]
    public async Task Killed_before_the_workers_were_told_of_a_print_it_prints_after_the_next_start()
    {
        await using var app = await TestApp.Start(demo: false);
        using var visitor = new Visitor(app);
        var path = await visitor.NewSession("Told late", "ostler-kit-room") + "/print";
        app.Kill();
        await using (var database = Database.Open(app.ConnectionString))
        {
            var sessions = new SessionStore(database);
            var session = (await sessions.List()).Single().Id;
            var request = new PrintRequest((await sessions.Head(session))!.Revision, []);
            Assert.Single(await new JobStore(database).CreatePrint(session, JsonSerializer.Serialize(request, SplitJson.Options), [1], null));
        }

        await app.Launch(demo: false);
        await visitor.WaitFor(path, p => p.QuerySelector("#job") is null && p.QuerySelectorAll(".take-track").Length == 12, "it is printed");
    }

    [Fact]
    public async Task Stopped_by_its_button_it_keeps_what_was_recorded_until_then()
    {
        await using var app = await PageApp.Start(demo: false);
        using var visitor = new Visitor(app);
        var path = await LongSession(visitor);
        await visitor.Send("#start");
        await visitor.WaitFor(path, Running, "it prints");
        await visitor.Send("#job form");
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 12, "the short take is there");
        var lengths = visitor.Page.QuerySelectorAll(".take-track").Select(t => long.Parse(t.GetAttribute("data-frames")!)).Distinct().ToList();
        Assert.InRange(Assert.Single(lengths), 1, 100_000_000);
        Assert.All(visitor.Page.QuerySelectorAll(".take-remark"), r => Assert.StartsWith("stopped early: ", r.TextContent, StringComparison.Ordinal));
        Assert.Empty(Directory.GetFiles(Path.Combine(app.Folder, "audio"), "*.part", SearchOption.AllDirectories));
    }

    [Fact]
    public async Task A_disk_that_fills_up_during_a_print_is_told()
    {
        var folder = Directory.CreateTempSubdirectory("gate-split-small-").FullName;
        Programs.Run("mount", "-t", "tmpfs", "-o", "size=3000m", "tmpfs", folder);
        try
        {
            await using var app = await TestApp.Start(demo: false, folder);
            using var visitor = new Visitor(app);
            var path = await LongSession(visitor);
            await visitor.Send("#start");
            await visitor.WaitFor(path, Running, "it prints");
            FillUp(Path.Combine(folder, "filler"));
            await visitor.WaitFor(path, p => p.QuerySelector("#job-end") is not null, "the full disk is told");
            Assert.Contains("The disk is full. Make room and start it again. Nothing half-written was kept.", visitor.Text);
            Assert.Empty(Directory.GetFiles(Path.Combine(folder, "audio"), "*", SearchOption.AllDirectories));

            // Before it begins, too: the room that the print had taken is free again until something else takes it.
            FillUp(Path.Combine(folder, "filler-2"));

            // An upload is refused with a sentence, too.
            using (var http = new HttpClient(new HttpClientHandler { CookieContainer = visitor.Cookies }) { BaseAddress = app.Http.BaseAddress })
            using (var begin = new HttpRequestMessage(HttpMethod.Post, "/sessions/1/uploads"))
            {
                begin.Headers.Add("Tus-Resumable", "1.0.0");
                begin.Headers.Add("Upload-Length", "100000");
                begin.Headers.Add("RequestVerificationToken", visitor.Page.QuerySelector("form.bring-in")!.GetAttribute("data-token"));
                using var reply = await http.SendAsync(begin);
                Assert.True(reply.StatusCode is HttpStatusCode.RequestEntityTooLarge or HttpStatusCode.InsufficientStorage, $"an upload is answered by {reply.StatusCode}");
                Assert.StartsWith("The disk is", await reply.Content.ReadAsStringAsync(), StringComparison.Ordinal);
            }

            await visitor.Send("#start");
            await visitor.WaitFor(path, p => p.QuerySelector("#job-end") is { } end && end.TextContent.Contains("too full"), "the lack of room is told");
            File.Delete(Path.Combine(folder, "filler"));
            File.Delete(Path.Combine(folder, "filler-2"));
            await visitor.Send("form[action*='Pass']", new Dictionary<string, string> { ["bars"] = "2" });
            await visitor.Send("#start");
            await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 12, "it prints once there is room");
        }
        finally
        {
            Programs.Run("umount", folder);
            Directory.Delete(folder);
        }
    }

    [Fact]
    public async Task A_database_that_is_away_for_ten_seconds_costs_nothing()
    {
        var port = TestDatabase.Port;
        using var relay = new Relay(port);
        await using var app = await TestApp.Start(demo: false, connection: c => c.Replace($"Port={port}", $"Port={relay.Port}"));
        using var visitor = new Visitor(app);
        var path = await LongSession(visitor);
        await visitor.Send("#start");
        await visitor.WaitFor(path, Running, "it prints");
        relay.Cut();
        await visitor.Get(path);
        Assert.Equal(HttpStatusCode.ServiceUnavailable, visitor.Status);
        Assert.Contains("The database does not answer just now. Nothing is lost", visitor.Text);
        using (var ready = await app.Http.GetAsync(new Uri("/health/ready", UriKind.Relative)))
        {
            Assert.Equal(HttpStatusCode.ServiceUnavailable, ready.StatusCode);
        }

        Assert.Equal("Healthy", await app.Http.GetStringAsync(new Uri("/health/live", UriKind.Relative)));
        await Task.Delay(TimeSpan.FromSeconds(10));
        relay.Mend();
        await visitor.WaitFor(path, p => p.QuerySelectorAll(".take-track").Length == 12, "the print that went on is there");
        Assert.Single(visitor.Page.QuerySelectorAll("a[href^='?take=']"));
    }

    [Fact]
    public async Task A_server_waits_for_a_database_that_does_not_answer_yet_and_says_why_it_cannot_start()
    {
        var port = TestDatabase.Port;
        using var relay = new Relay(port);
        relay.Cut();
        var starting = TestApp.Start(demo: false, connection: c => c.Replace($"Port={port}", $"Port={relay.Port}"));
        await Task.Delay(TimeSpan.FromSeconds(4));
        Assert.False(starting.IsCompleted);
        relay.Mend();
        await using var app = await starting;
        Assert.Equal("Healthy", await app.Http.GetStringAsync(new Uri("/health/ready", UriKind.Relative)));

        var refused = await Assert.ThrowsAsync<InvalidOperationException>(() => TestApp.Start(demo: false, connection: c => c.Replace("Username=", "Username=nobody")));
        Assert.Contains("Gate Split cannot start without its database.", refused.Message);
        Assert.DoesNotContain("   at ", refused.Message); // a sentence, not a trace
    }

    /// <summary>Writes until the disk takes no more, whoever else writes meanwhile.</summary>
    private static void FillUp(string path)
    {
        var zeros = new byte[1 << 23];
        using var file = File.OpenHandle(path, FileMode.Create, FileAccess.Write);
        try
        {
            for (long at = 0; ; at += zeros.Length)
            {
                RandomAccess.Write(file, zeros, at);
            }
        }
        catch (IOException)
        {
            // Full.
        }
    }

    private static bool Running(AngleSharp.Dom.IDocument page) =>
        page.QuerySelector("#job progress") is { } bar && double.Parse(bar.GetAttribute("value")!) > 0.01;

    /// <summary>A session that prints long enough to be disturbed.</summary>
    private static async Task<string> LongSession(Visitor visitor)
    {
        await visitor.Get("/");
        await visitor.Send("#new-name", new Dictionary<string, string> { ["name"] = "Long", ["charts"] = "ostler-kit-room", ["bars"] = "300" });
        var path = visitor.Page.Location.PathName.Replace("/split", "/print");
        await visitor.Get(path);
        return path;
    }
}

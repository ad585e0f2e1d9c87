using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Data;
using GateSplit.Tests.Shared;
using OpenQA.Selenium;

namespace GateSplit.Browser.Tests;

/// <summary>Many passes in the queue: the pages that follow them leave connections for everything else.</summary>
public sealed class QueueTests
{
    [Fact]
    public async Task With_eight_passes_queued_and_three_tabs_open_pages_load_and_stop_acts()
    {
        await using var app = await PageApp.Start(demo: false);
        await using var database = Database.Open(app.ConnectionString);
        var (sessions, jobs) = (new SessionStore(database), new JobStore(database));
        var (split, song) = InPasses();
        Assert.True(split.Passes >= 8, $"{split.Passes} passes");
        var id = await sessions.Create("Passes", song, split);
        using var browser = new Browser(app.Port);
        browser.Open($"/sessions/{id}/print");
        browser.Click("#start");
        browser.WaitUntil(() => browser.All(".job-card").Count >= 7, "the passes are queued");

        // Two more tabs follow them too, and go through the other pages; none of these waits for a connection.
        for (var tab = 0; tab < 2; tab++)
        {
            browser.Driver.SwitchTo().NewWindow(WindowType.Tab);
            browser.Open($"/sessions/{id}/print");
            browser.WaitUntil(() => browser.All(".job-card progress").Count > 0, "the tab follows the passes");
            foreach (var station in new[] { "sources", "recorder", "split", "handoff", "print" })
            {
                browser.Open($"/sessions/{id}/{station}");
                Assert.NotEmpty(browser.All("#status-job"));
            }
        }

        browser.Driver.SwitchTo().Window(browser.Driver.WindowHandles[0]);
        Assert.Contains(await jobs.Current(id), j => j.State == JobState.Queued);
        browser.Click("#status form button");
        browser.WaitUntilGone("#status-job", "all of them have stopped");
        Assert.DoesNotContain(await jobs.Current(id), j => j.IsActive);
        Assert.Contains("Stopped before it began.", browser.Text);
        Assert.Empty(browser.Complaints);
    }

    /// <summary>A kit with twelve elements over two sockets, long enough to be stopped.</summary>
    private static (Split Split, byte[] Song) InPasses()
    {
        var file = CheckPattern.Of([OstlerKitRoom.Chart], Tempo.Default);
        var song = Song.Of(file);
        var start = StartingSplit.Of([OstlerKitRoom.Chart], 1500, 48000);
        foreach (var edit in new Edit[] { new AddBank(BankKind.Analog, "Analog", 2), new SetBank(start.Banks[0] with { Connected = false }) })
        {
            start = edit.Apply(start).Value!;
        }

        var laid = Layer.Propose(SplitView.Of(start, song), new LayWish(HardPan: false) { Unity = true }).Edit!.Apply(start).Value!;
        return (laid, MidiWriter.Write(file));
    }
}

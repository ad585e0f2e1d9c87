using GateSplit.Tests.Shared;
using OpenQA.Selenium;

namespace GateSplit.Browser.Tests;

/// <summary>The setup sheet beside the gear: ticked on a phone, also while the connection is lost.</summary>
public sealed class SetupSheetTests
{
    [Fact]
    public async Task Ticks_wait_while_the_connection_is_lost_and_catch_up()
    {
        await using var app = await PageApp.Start();
        using var desk = new Browser(app.Port);
        desk.Open("/sessions/1/setup");
        Tick(desk, 0);
        desk.WaitUntil(() => desk.Find("[data-done]").Text == "1", "the first step is done");

        using var phone = new Browser(app.Port);
        phone.Open("/sessions/1/setup");
        phone.WaitUntil(() => phone.Find("[data-done]").Text == "1", "the phone knows of it");
        Offline(phone, true);
        Tick(phone, 1);
        Tick(phone, 2);
        phone.WaitUntil(() => phone.Find("[data-waiting]").Displayed, "it is told that the connection is lost");
        Assert.Equal("3", phone.Find("[data-done]").Text);
        Tick(desk, 3);
        desk.WaitUntil(() => desk.Find("[data-done]").Text == "2", "the other goes on meanwhile");

        Offline(phone, false);
        phone.WaitUntil(() => phone.Find("[data-done]").Text == "4" && !phone.Find("[data-waiting]").Displayed, "it has caught up");
        desk.WaitUntil(() => desk.Find("[data-done]").Text == "4", "the other knows of it");

        // Taken back on one, gone on both.
        Tick(desk, 0);
        phone.WaitUntil(() => phone.Find("[data-done]").Text == "3", "the tick is gone here too");
        desk.Driver.Navigate().Refresh();
        Assert.Equal(["False", "True", "True", "True", "False"], desk.All(".setup input[name=on]").Take(5).Select(b => $"{b.Selected}"));
    }

    [Fact]
    public async Task On_a_phone_nothing_is_cut_off_or_behind_the_foot()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Driver.ExecuteCdpCommand("Emulation.setDeviceMetricsOverride", new Dictionary<string, object?> { ["width"] = 390, ["height"] = 844, ["deviceScaleFactor"] = 1, ["mobile"] = true });
        browser.Open("/gear");
        browser.ClickButton("Add the row");
        browser.WaitUntil(() => browser.All("#rows").Count == 1, "the row is there");
        browser.ClickButton("Add it");
        browser.WaitUntil(() => browser.All("#own").Count == 1, "the source is there");
        string[] pages = ["/", "/gear", "/gear?open=u1", "/templates", "/shelf", "/sessions/2/setup", .. new[] { "sources", "recorder", "split", "line-check", "print", "proof", "handoff", "templates", "roll-call" }.Select(p => $"/sessions/1/{p}")];
        foreach (var page in pages)
        {
            browser.Open(page);
            Assert.Equal(390L, browser.Driver.ExecuteScript("return document.documentElement.scrollWidth"));
            Assert.NotEqual("sticky", browser.Driver.ExecuteScript("const foot = document.querySelector('.foot'); return foot ? getComputedStyle(foot).position : 'static'"));
        }

        foreach (var page in new[] { "/sessions/1/setup", "/sessions/2/setup", "/sessions/3/setup" })
        {
            browser.Open(page);
            Assert.True((bool)browser.Driver.ExecuteScript("""
                return [...document.querySelectorAll(".setup li, .setup h2, .setup-words")].every(e => { const r = e.getBoundingClientRect(); return r.left >= 0 && r.right <= 390 && e.scrollWidth <= e.clientWidth + 1; })
                """)!, page);
        }
    }

    [Theory]
    [InlineData(8.27, 11.69)]
    [InlineData(8.5, 11)]
    public async Task On_paper_a_sheet_of_a_demo_session_is_one_page(double width, double height)
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        foreach (var session in Enumerable.Range(1, 5))
        {
            browser.Open($"/sessions/{session}/setup");
            var printed = (Dictionary<string, object>)browser.Driver.ExecuteCdpCommand("Page.printToPDF", new Dictionary<string, object?> { ["paperWidth"] = width, ["paperHeight"] = height, ["printBackground"] = true, ["preferCSSPageSize"] = false })!;
            var document = System.Text.Encoding.Latin1.GetString(Convert.FromBase64String((string)printed["data"]));
            Assert.Equal((session, 1), (session, document.Split("/Type /Page\n").Length - 1));
        }
    }

    private static void Tick(Browser browser, int step) => ((IJavaScriptExecutor)browser.Driver).ExecuteScript("document.querySelectorAll('.setup input[name=on]')[arguments[0]].click()", step);

    private static void Offline(Browser browser, bool offline)
    {
        browser.Driver.ExecuteCdpCommand("Network.enable", []);
        browser.Driver.ExecuteCdpCommand("Network.emulateNetworkConditions", new Dictionary<string, object?> { ["offline"] = offline, ["latency"] = 0, ["downloadThroughput"] = -1, ["uploadThroughput"] = -1 });
    }
}

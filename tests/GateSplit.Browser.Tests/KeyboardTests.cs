using GateSplit.Tests.Shared;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace GateSplit.Browser.Tests;

/// <summary>The whole path without a mouse, and the table without script.</summary>
public sealed class KeyboardTests
{
    private const int MostTabs = 120;

    [Fact]
    public async Task Keys_alone_go_the_whole_path()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Open("/");
        TabTo(browser, "a[href='/sessions/2/split']");
        browser.Press(Keys.Enter);

        // Down to the track of the snare, and its input one up: from that of the kick to its own.
        browser.WaitUntil(() => browser.All(".drawing a.track").Count == 12, "the split is there");
        for (var steps = 0; Chosen(browser) != "track:t2" && steps < 30; steps++)
        {
            var before = Chosen(browser);
            browser.Press(Keys.ArrowDown);
            browser.WaitUntil(() => Chosen(browser) != before, "the next line is chosen");
        }

        browser.Press(Keys.ArrowRight);
        browser.WaitUntil(() => browser.Find(".drawing [data-track='t2']").GetAttribute("data-input") == "b-u1:4", "the track listens to the snare");
        browser.Press("a");
        browser.WaitUntil(() => browser.Find(".drawing [data-track='t2']").GetAttribute("data-armed") == "false", "it is disarmed");
        new Actions(browser.Driver).KeyDown(Keys.Control).SendKeys("z").KeyUp(Keys.Control).Perform();
        browser.WaitUntil(() => browser.Find(".drawing [data-track='t2']").GetAttribute("data-armed") == "true", "undo arms it again");
        browser.Press("/");
        Assert.Equal("filter", browser.Driver.SwitchTo().ActiveElement().GetAttribute("id"));
        browser.Press("open hat");
        browser.WaitUntil(() => browser.All("#lines tbody tr").Count(r => r.Displayed) == 1, "the table is filtered");
        browser.Press(Keys.Escape);

        browser.Press("5");
        browser.WaitUntil(() => browser.Driver.Url.EndsWith("/print", StringComparison.Ordinal), "the print page is there");
        TabTo(browser, "#start");
        browser.Press(Keys.Enter);
        browser.WaitUntil(() => browser.All(".take-track").Count > 0, "the take is there");
        browser.Press(Keys.Space);
        browser.WaitUntil(() => browser.Find("#player").GetAttribute("data-playing") == "true", "it plays");
        browser.Press(Keys.Space);
        browser.WaitUntil(() => browser.Find("#player").GetAttribute("data-playing") == "false", "it stops");

        browser.Press("7");
        browser.WaitUntil(() => browser.Driver.Url.EndsWith("/handoff", StringComparison.Ordinal), "the handoff page is there");
        TabTo(browser, "#make");
        browser.Press(Keys.Enter);
        browser.WaitUntil(() => browser.All(".made a").Count == 1 && browser.All("#handoff-job").Count == 0, "the handoff is made");
        TabTo(browser, ".made a");
        browser.Press(Keys.Enter);
        browser.WaitUntil(() => File.Exists(Path.Combine(browser.Downloads, "Fog Signal handoff 1.zip")), "the zip is downloaded");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public async Task Without_script_a_line_is_assigned_by_its_form()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port, script: false);
        browser.Open("/sessions/2/split");
        var select = browser.Find("#lines select[aria-label='Input of Snare']");
        select.SendKeys("Mudlark USB 4");
        browser.Send("#table button", Keys.Enter); // it is there only without script
        browser.WaitUntil(() => browser.Text.Contains("Kick listens to Mudlark USB 4, where Snare arrives: Kick arrives on Mudlark USB 3.", StringComparison.Ordinal), "only the kick is left in the wrong place");
    }

    private static string? Chosen(Browser browser) =>
        browser.All(".drawing [aria-current='true']").FirstOrDefault()?.GetAttribute("data-place");

    private static void TabTo(Browser browser, string css)
    {
        for (var tabs = 0; tabs < MostTabs; tabs++)
        {
            if ((bool)browser.Driver.ExecuteScript("return document.activeElement.matches(arguments[0])", css)!)
            {
                return;
            }

            browser.Press(Keys.Tab);
        }

        Assert.Fail($"Tab never reached {css}");
    }
}

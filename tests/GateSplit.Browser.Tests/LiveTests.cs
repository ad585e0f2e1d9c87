using System.Globalization;
using GateSplit.Tests.Shared;
using OpenQA.Selenium.Interactions;

namespace GateSplit.Browser.Tests;

/// <summary>The session is heard while it is changed, and a ride is performed to it.</summary>
public sealed class LiveTests
{
    [Fact]
    public async Task A_session_is_heard_while_it_changes_and_a_ride_is_performed_to_it()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Open("/sessions/2/split?line=track%3At10");
        browser.Do("#live-from", e => e.Clear());
        browser.Send("#live-from", "3");
        browser.Choose("#live-click", s => s.SelectByText("no click"));
        browser.Click("#listen");
        browser.WaitUntil(() => Bar(browser) > 3.1 && Peak(browser) > 0.01, "the mix is heard");

        // One bar goes round and round.
        browser.Do("#live-to", e => e.Clear());
        browser.Send("#live-to", "3");
        browser.Click("#live-round");
        browser.WaitUntil(() => Bar(browser) > 3.8, "the bar is nearly over");
        browser.WaitUntil(() => Bar(browser) < 3.4, "it has come round");
        browser.Click("#live-round");

        // S hears what is chosen alone; what listens to nothing is heard no more, and is again when that is undone.
        browser.Driver.ExecuteScript("document.activeElement.blur()");
        browser.Press("s");
        browser.WaitUntil(() => browser.Find("#live-ear").GetAttribute("value") == "lines t10", "the bass alone is heard");
        var bar = Bar(browser);
        browser.WaitUntil(() => Bar(browser) > bar + 0.2 && Peak(browser) > 0.005, "it sounds");
        browser.Choose("#input-t10, select[name='input:t10']", s => s.SelectByIndex(0));
        browser.WaitUntil(() => Peak(browser) == 0, "it is silent");
        browser.Click("#undo");
        browser.WaitUntil(() => Peak(browser) > 0.005, "it is heard again");
        browser.Click("#listen");
        browser.WaitUntil(() => browser.Find("#listening").GetAttribute("data-playing") == "false", "it stops");

        browser.Open("/sessions/2/ride?of=u2%2Fbass&control=Level");
        browser.Choose("#live-ear", s => s.SelectByValue("lines t10"));
        browser.Choose("#live-click", s => s.SelectByText("no click"));
        browser.ClickButton("Perform it live");
        var area = browser.Find("#ride svg");
        var height = area.Size.Height;
        browser.WaitUntil(() => Bar(browser) > 1.15 && Peak(browser) > 0.005, "the bass is heard");
        for (var step = -10; step <= 24; step++)
        {
            new Actions(browser.Driver).MoveToElement(area, 0, height * step / 51).Perform();
        }

        browser.WaitUntil(() => Peak(browser) < 0.002, "the bass was ridden away");
        browser.ClickButton("Stop the performance");
        var points = browser.Find("#points").GetAttribute("value")!.Split(',', StringSplitOptions.TrimEntries).Select(p => p.Split(' ').Select(n => double.Parse(n, CultureInfo.InvariantCulture)).ToArray()).ToList();
        Assert.True(points.Count > 4 && points[^1][1] < -40, string.Join(", ", points.Select(p => $"{p[0]} {p[1]}")));
        Assert.Equal(points.OrderBy(p => p[0]), points);
        browser.ClickButton("Keep the ride");
        browser.WaitUntil(() => browser.Find("#undo").GetAttribute("title") == "Undo: Ride the level of Keel bass", "the ride is kept");
        Assert.Empty(browser.Complaints);
    }

    private static double Bar(Browser browser) => Number(browser, "data-bar");

    private static double Peak(Browser browser) => Number(browser, "data-peak");

    private static double Number(Browser browser, string name) =>
        double.TryParse(browser.Find("#listening").GetAttribute(name), CultureInfo.InvariantCulture, out var number) ? number : 0;
}

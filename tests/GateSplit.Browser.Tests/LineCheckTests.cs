using GateSplit.Tests.Shared;
using OpenQA.Selenium;

namespace GateSplit.Browser.Tests;

/// <summary>The line check in the browser: two crossed cables in the simulated interface are found, by the walk and by ear.</summary>
public sealed class LineCheckTests
{
    [Fact]
    public async Task Two_crossed_cables_are_found_and_put_right()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Open("/sessions/3/line-check");

        // Relief Boat's first two sockets are crossed with its third and fourth, one cable each.
        browser.Driver.ExecuteScript("document.querySelectorAll('.side-column details').forEach(d => d.open = true)");
        Choose("a", "Socket 1");
        Choose("b", "Socket 3");
        browser.ClickButton("Cross these two");
        browser.WaitUntil(() => browser.Text.Contains("1 pair crossed"), "the cables are crossed");

        browser.Click("#walk-all");
        browser.WaitUntil(() => browser.All("#walked").Count > 0, "all lines are walked");
        Assert.StartsWith("4 lines of 9 are not as the split says", browser.TextOf("#walked"), StringComparison.Ordinal); // two in each pass
        Assert.Equal(4, browser.All(".walk-list li").Count);
        Assert.Equal(4, browser.All("#walk-table tr.walk-bad").Count);

        // The first line is heard, and its meters move. The page itself notes where they were: its sound is short, and
        // whoever asks from outside may come only when it is over.
        browser.Driver.ExecuteScript("""
            window.widths = new Set();
            new MutationObserver(() => {
              if (document.querySelector("#line-now[data-heard]")) window.widths.add(document.querySelector("#line-now .meter-bar").getAttribute("width"));
            }).observe(document.getElementById("line-now"), { subtree: true, attributes: true });
            """);
        browser.Press(Keys.Space);
        browser.WaitUntil(() => (bool)browser.Driver.ExecuteScript("return window.widths.size > 3")!, "the line is heard and the meter moves");
        browser.WaitUntilGone("#line-now[data-heard]", "the line has been heard to its end");

        browser.Driver.ExecuteScript("document.querySelectorAll('.side-column details').forEach(d => d.open = true)");
        browser.All("button").Single(b => b.Text.EndsWith("right", StringComparison.Ordinal) && b.Text.StartsWith("Put", StringComparison.Ordinal)).SendKeys(Keys.Enter);
        browser.WaitUntil(() => browser.Text.Contains("as they should be"), "the cables are right again");
        browser.Click("#walk-all");
        browser.WaitUntil(() => browser.All("#walked.walk-good-text").Count > 0, "every line arrives where it should");

        // By keys: it is right, go on; go on without a tick.
        var first = browser.TextOf("#line-title");
        browser.Press("y");
        browser.WaitUntil(() => browser.TextOf("#ticked") == "1" && browser.TextOf("#line-title") != first, "the first line is ticked and the second is there");
        var second = browser.TextOf("#line-title");
        browser.Press("n");
        browser.WaitUntil(() => browser.TextOf("#line-title") != second, "the third line is there");
        Assert.Equal("1", browser.TextOf("#ticked"));
        Assert.Empty(browser.Complaints);

        void Choose(string name, string input) => browser.Send($".side-column select[name='{name}']", input);
    }
}

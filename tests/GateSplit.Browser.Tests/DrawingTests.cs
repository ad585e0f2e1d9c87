using GateSplit.Tests.Shared;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace GateSplit.Browser.Tests;

/// <summary>The drawing by mouse: several tracks chosen at once, a cable from a port to a socket, an input to a track.</summary>
public sealed class DrawingTests
{
    [Fact]
    public async Task Several_are_chosen_and_cables_and_inputs_are_dragged()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Open("/sessions/3/split");
        var actions = new Actions(browser.Driver);
        actions.KeyDown(Keys.Control).Click(browser.Find("[data-place='track:t1'] .hit")).Click(browser.Find("[data-place='track:t3'] .hit")).KeyUp(Keys.Control).Perform();
        browser.WaitUntil(() => browser.TextOf("#picked-count") == ": 2 tracks" && browser.All(".drawing .picked").Count == 2, "two tracks are chosen");
        browser.Send("#bulk-act", "disarm");
        browser.ClickButton("Do it");
        WaitForUndo(browser, "Disarm 2 tracks");

        // Drums leave by port 2; its cable goes where that of the percussion was.
        Drag(browser, "[data-node='port'][data-port='2'] rect", "[data-node='input'][data-place='port:u1/3'] rect");
        WaitForUndo(browser, "Plug Brindle Six 3-4 into Socket 3-4");
        browser.Click("#undo");
        WaitForUndo(browser, "Disarm 2 tracks");

        Drag(browser, "[data-node='input'][data-place='port:u1/5'] rect", "[data-place='track:t1'] .hit");
        WaitForUndo(browser, "Put Drums on Socket 7-8");
        Assert.Empty(browser.Complaints);
    }

    private static void Drag(Browser browser, string from, string to) => new Actions(browser.Driver)
        .MoveToElement(browser.Find(from)).ClickAndHold()
        .MoveByOffset(0, 8)
        .MoveToElement(browser.Find(to)).Release().Perform();

    private static void WaitForUndo(Browser browser, string edit) =>
        browser.WaitUntil(() => browser.Find("#undo").GetAttribute("title") == $"Undo: {edit}", $"undo would take back: {edit}");
}

using GateSplit.Tests.Shared;

namespace GateSplit.Browser.Tests;

/// <summary>From nothing to a checked split, counting what a person does.</summary>
public sealed class SetUpTests
{
    private int _actions;

    [Fact]
    public async Task A_groovebox_with_an_external_input_in_at_most_twelve_actions()
    {
        await using var app = await PageApp.Start(demo: false);
        using var browser = new Browser(app.Port);
        browser.Open("/");
        Do(() => browser.Send("#new-name", "Relief Boat"));
        Do(() => browser.Click("input[name=charts][value=brindle-six]"));
        Untick(browser.Find("#new-lay"));
        Do(() => browser.ClickButton("Make the session"));

        // The box: its mode, and the restart that the mode needs.
        Do(() => browser.Click(".station[href$='/sources']"));
        Do(() => browser.Choose("#mode-u1", s => s.SelectByValue("full")));
        browser.WaitUntil(() => browser.Text.Contains("It goes on as Built-in driver, stereo"), "the restart is asked for");
        Do(() => browser.ClickButton("It was started again"));
        browser.WaitUntil(() => browser.Text.Contains("8 ports of 8 open"), "all ports are open");

        // The lines.
        Do(() => browser.Click(".station[href$='/split']"));
        Do(() => browser.Click("a[href$='/lay']"));
        Assert.Contains("8 new lines", browser.Text);
        Do(() => browser.Click("#accept"));
        browser.WaitUntil(() => browser.Text.Contains("not ticked yet"), "what is to be set on the box is asked for");
        Do(() => browser.ClickButton("They are made: tick them"));
        browser.WaitUntil(() => browser.All("#lines tbody tr").Count >= 8 && browser.Text.Contains("Nothing to mend"), "the split is checked");
        var tracks = browser.All(".drawing a.track").Select(t => t.GetAttribute("aria-label")!).ToList();
        Assert.Equal(8, tracks.Count);
        foreach (var (track, input) in tracks.Zip(["USB 3-4", "USB 5-6", "USB 7-8", "USB 9-10", "USB 11-12", "USB 13-14", "USB 15", "USB 16"]))
        {
            Assert.EndsWith($"track on {input}", track);
        }

        Assert.Contains("ready", browser.TextOf("#route"));
        Assert.InRange(_actions, 1, 12);
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public async Task A_drum_synth_with_shared_voices_and_a_main_that_carries_only_effects()
    {
        await using var app = await PageApp.Start(demo: false);
        using var browser = new Browser(app.Port);
        browser.Open("/");
        Do(() => browser.Send("#new-name", "Ten pads"));
        Do(() => browser.Click("input[name=charts][value=heron-ten]"));
        Untick(browser.Find("#new-lay"));
        Do(() => browser.ClickButton("Make the session"));
        Do(() => browser.Click("a[href$='/lay']"));
        browser.WaitUntil(() => browser.Text.Contains("Rim + Clap share a voice of Heron Ten and so one line"), "sharers are one line");
        Assert.Contains("7 new lines", browser.Text);
        Assert.Contains("Heron Ten is set to Main and seven voices", browser.Text);
        Do(() => browser.Click("#accept"));
        browser.WaitUntil(() => browser.All(".drawing a.track").Count == 7, "seven tracks");

        // Every pad leaves the main mix, which then carries the effect alone.
        browser.Open(new Uri(browser.Driver.Url).AbsolutePath.Replace("/split", "/sources"));
        Assert.Equal(10, browser.All("button[aria-label$='also in it']").Count);
        Do(() => browser.ClickButton("Take all 10 out of the main mix"));
        browser.WaitUntil(() => browser.All("button[aria-label$='out of it']").Count == 10, "the pads are out of the main");

        browser.Open(new Uri(browser.Driver.Url).AbsolutePath.Replace("/sources", "/split"));
        Do(() => browser.ClickButton("They are made: tick them"));
        browser.WaitUntil(() => browser.Text.Contains("Nothing to mend"), "nothing is left to mend");
        Assert.Contains("Rim and Clap share voice V3 of Heron Ten", browser.Text);
        Assert.Contains("master effect are only in the main mix of Heron Ten", browser.Text);
        Assert.InRange(_actions, 1, 12);
    }

    [Fact]
    public async Task One_click_switches_to_night_on_the_split_as_well()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Open("/sessions/2/split");
        var before = browser.Find("html").GetAttribute("data-bs-theme");
        browser.Click("[data-theme-switch]");
        browser.WaitUntil(() => browser.Find("html").GetAttribute("data-bs-theme") != before, "the theme has changed");
    }

    private void Do(Action action)
    {
        _actions++;
        action();
    }

    private void Untick(OpenQA.Selenium.IWebElement box)
    {
        if (box.Selected)
        {
            Do(box.Click);
        }
    }
}

using GateSplit.Tests.Shared;
using OpenQA.Selenium.Support.UI;

namespace GateSplit.Browser.Tests;

/// <summary>From opening the program to a checked split with its setup sheet, counted in actions: each click, choice or entry is one.</summary>
public sealed class FewActionsTests
{
    private int _actions;

    [Fact]
    public async Task A_box_takes_at_most_five_and_a_kept_template_at_most_three()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Open("/");
        Act(() => new SelectElement(browser.Find("#first-box")).SelectByText("Mudlark Nine"));
        Act(() => browser.Find("form:has(#first-box) button").Click());
        browser.WaitUntil(() => browser.Text.Contains("Switch on “Mudlark Nine”"), "the sheet is there");
        Assert.InRange(_actions, 1, 5);
        Assert.Empty(browser.All("#to-mend"));
        var sheet = browser.All(".setup-words").Select(w => w.Text).ToList();

        // Kept, and begun from again.
        browser.Open(new Uri(browser.Driver.Url).AbsolutePath.Replace("/setup", "/templates", StringComparison.Ordinal));
        browser.Find("#keep").Click();
        browser.WaitUntil(() => browser.Text.Contains("is kept"), "the template is kept");
        browser.Open("/");
        _actions = 0;
        Act(() => browser.Find("a[href='/templates']").Click());
        browser.WaitUntil(() => browser.All(".template").Count == 1, "the templates are there");
        Act(() => browser.Find("button[name=with]").Click());
        browser.WaitUntil(() => browser.All(".setup-words").Count == sheet.Count, "the sheet is there");
        Assert.InRange(_actions, 1, 3);
        Assert.Equal(sheet, browser.All(".setup-words").Select(w => w.Text));
        Assert.Empty(browser.Complaints);
    }

    private void Act(Action action)
    {
        action();
        _actions++;
    }
}

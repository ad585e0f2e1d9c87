using GateSplit.Tests.Shared;

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
        Act(() => browser.Choose("#first-box", s => s.SelectByText("Mudlark Nine")));
        Act(() => browser.Click("form:has(#first-box) button"));
        browser.WaitUntil(() => browser.Text.Contains("Switch on “Mudlark Nine”"), "the sheet is there");
        Assert.InRange(_actions, 1, 5);
        Assert.Empty(browser.All("#to-mend"));
        var sheet = browser.All(".setup-words").Select(w => w.Text).ToList();

        // Kept, and begun from again.
        browser.Open(new Uri(browser.Driver.Url).AbsolutePath.Replace("/setup", "/templates", StringComparison.Ordinal));
        browser.Click("#keep");
        browser.WaitUntil(() => browser.Text.Contains("is kept"), "the template is kept");
        browser.Open("/");
        _actions = 0;
        Act(() => browser.Click("a[href='/templates']"));
        browser.WaitUntil(() => browser.All(".template").Count == 1, "the templates are there");
        Act(() => browser.Click("button[name=with]"));
        browser.WaitUntil(() => browser.All(".setup-words").Count == sheet.Count, "the sheet is there");
        Assert.InRange(_actions, 1, 3);
        Assert.Equal(sheet, browser.All(".setup-words").Select(w => w.Text));
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public async Task A_recording_takes_at_most_five_to_be_cut_and_named()
    {
        await using var app = await PageApp.Start(demo: false);
        var folder = Directory.CreateTempSubdirectory("gate-split-first-").FullName;
        try
        {
            string[] files = [Path.Combine(folder, "Kick.wav"), Path.Combine(folder, "Snare.wav")];
            foreach (var file in files)
            {
                Programs.Run("ffmpeg", "-v", "error", "-f", "lavfi", "-i", "anoisesrc=d=3:r=48000:a=0.5", file);
            }

            using var browser = new Browser(app.Port);
            browser.Open("/");
            Act(() => browser.Choose("#first-recorded", s => s.SelectByText("Mudlark Nine")));
            Act(() => browser.Click("form:has(#first-recorded) button"));
            browser.WaitUntil(() => browser.All("#recording").Count > 0, "it can be sent");
            Act(() => browser.Send("#recording", string.Join('\n', files)));
            Act(() => browser.ClickButton("Bring them in"));
            browser.WaitUntil(() => browser.All("#bring-lines").Count > 0, "what goes where is shown");
            Act(() => browser.ClickButton("Cut and keep as a take"));
            browser.WaitUntil(() => browser.All(".take-track").Count == 2, "the take is there");
            Assert.Equal(["Kick", "Snare"], browser.All(".take-name").Select(n => n.Text));
            Assert.InRange(_actions, 1, 5);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private void Act(Action action)
    {
        action();
        _actions++;
    }
}

using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Tests.Shared;
using OpenQA.Selenium;

namespace GateSplit.Browser.Tests;

/// <summary>What a producer does by hand in a running session: replaces the song, sums drums, moves a track into another pass, types into fields.</summary>
public sealed class ByHandTests
{
    [Fact]
    public async Task A_song_on_the_wrong_channel_is_put_in_told_and_played_on_the_right_one_with_one_press()
    {
        await using var app = await PageApp.Start(demo: false);
        using var browser = new Browser(app.Port);
        var folder = Directory.CreateTempSubdirectory("gate-split-song-");
        var path = Make(browser, "mudlark-nine");

        // Kick and snare on channel 4, which the drum machine does not hear.
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var beat = 0; beat < 16; beat++)
        {
            writer.Hold(4, beat % 2 == 0 ? 36 : 38, 100, beat, 0.5);
        }

        var file = Path.Combine(folder.FullName, "other.mid");
        await File.WriteAllBytesAsync(file, MidiWriter.Write(writer.ToFile("Other", 4)), TestContext.Current.CancellationToken);
        browser.Open($"{path}/sources");
        browser.Send("#song-file", file);
        browser.Click("#replace-song");
        browser.WaitUntil(() => browser.Text.Contains("16 notes, 4 bars"), "the song is replaced");
        Assert.Equal("Undo: Replace the song by other.mid", browser.Find("#undo").GetAttribute("title"));

        browser.Open($"{path}/split");
        var first = browser.Find(".finding");
        Assert.Contains("channel 4", first.Text);
        first.FindElement(By.CssSelector(".btn-act")).Click();
        browser.WaitUntil(() => browser.Find("#undo").GetAttribute("title")!.StartsWith("Undo: Let channel 4 play Mudlark Nine on channel 10", StringComparison.Ordinal), "channel 4 plays it");
        browser.WaitUntilGone(".finding[data-finding^='Unplayed']", "nothing is silent for its channel");

        // Undo brings the channel back, and then the song.
        browser.Click("#undo");
        browser.WaitUntil(() => browser.All(".finding[data-finding^='Unplayed']").Count > 0, "it is told again");
        browser.Click("#undo");
        browser.WaitUntil(() => browser.Text.Contains("Nothing to mend"), "the first song is back");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public async Task Drums_are_summed_fed_on_and_turned_down_together()
    {
        await using var app = await PageApp.Start(demo: false);
        using var browser = new Browser(app.Port);
        var path = Make(browser, "ostler-kit-room");
        browser.Open($"{path}/recorder");
        foreach (var (name, sums) in new[] { ("Drums", "true"), ("All", "true"), ("Low", "false") })
        {
            browser.Send("input[placeholder='Drums']", name);
            browser.Choose("form:has(input[placeholder='Drums']) select", s => s.SelectByValue(sums));
            browser.Click("form:has(input[placeholder='Drums']) button");
            browser.WaitUntil(() => browser.All($"input[aria-label='Name of {name}']").Count == 1, $"there is {name}");
        }

        browser.Choose("select[aria-label='Output of Drums']", s => s.SelectByText("into All"));
        browser.WaitUntil(() => browser.All("select[aria-label='Output of All'] option[value='=g1']").Count == 0, "All cannot feed what feeds it");

        // A field takes effect when it is left, on Enter, and steps with the arrow keys.
        browser.Type("input[aria-label='Level of Low, dB']", "-6");
        browser.WaitUntil(() => browser.Find("#undo").GetAttribute("title") == "Undo: Change the group Low", "Enter sets the level");
        browser.Send("input[aria-label='Level of Low, dB']", Keys.ArrowDown);
        browser.WaitUntil(() => browser.Find("input[aria-label='Level of Low, dB']").GetDomAttribute("value") == "-7.0" && browser.Driver.ExecuteScript("return document.activeElement.getAttribute('aria-label')") as string == "Level of Low, dB", "the arrow steps it, and it stays in hand");

        // Four tracks at once into the sum, from the split.
        browser.Open($"{path}/split");
        foreach (var box in browser.All("#lines input[name='tracks']").Take(4))
        {
            browser.Driver.ExecuteScript("arguments[0].click()", box); // the status line lies over what is at the bottom
        }

        Assert.Equal(": 4 tracks", browser.TextOf("#picked-count"));
        browser.Choose("#bulk-act", s => s.SelectByValue("group"));
        Assert.False(browser.Find("#bulk select[name='start']").Displayed);
        browser.Send("#bulk input[name='pattern']", "Drums");
        browser.ClickButton("Do it");
        browser.WaitUntil(() => browser.Find("#undo").GetAttribute("title") == "Undo: Group 4 tracks", "they are grouped");
        browser.Open($"{path}/recorder");
        Assert.Equal(4, browser.All("select[aria-label^='Group that sums'] option[value='g1']:checked").Count);

        // Stepped, and on to another page at once: the step is not lost.
        browser.Send("input[aria-label='Level of Low, dB']", Keys.ArrowDown);
        browser.Click(".station[href$='/split']");
        browser.WaitUntil(
            () =>
            {
                browser.Open($"{path}/recorder");
                return browser.Find("input[aria-label='Level of Low, dB']").GetDomAttribute("value") == "-8.0";
            },
            "the step has taken effect");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public async Task A_track_goes_into_another_pass_in_the_table_and_what_plays_on_it_moves_along()
    {
        await using var app = await PageApp.Start(demo: false);
        using var browser = new Browser(app.Port);
        var path = Make(browser, "ostler-kit-room");
        browser.Open($"{path}/split");
        browser.Choose("select[name='track-pass:t9']", s => s.SelectByValue("2"));
        browser.WaitUntil(() => browser.All(".passes a").Count == 3, "there are two passes");
        Assert.Equal("Undo: Put 1 track into pass 2", browser.Find("#undo").GetAttribute("title"));
        browser.Click(".passes a:nth-of-type(2)");
        browser.WaitUntil(() => browser.All(".drawing a.track").Count == 1, "the second pass holds one track");
        Assert.Contains("Nothing to mend", browser.Text);
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public async Task Words_of_the_drawing_never_run_into_each_other()
    {
        await using var app = await PageApp.Start(demo: false);
        using var browser = new Browser(app.Port);
        var path = Make(browser, "mudlark-nine");
        foreach (var (track, name) in new[] { ("t1", new string('W', 80)), ("t2", new string('i', 80)), ("t3", "The drum that was hired from the theatre, second microphone from the left") })
        {
            browser.Open($"{path}/split?line=track:{track}");
            browser.Type("#ins-name", name);
            browser.WaitUntil(() => browser.Find($".drawing [data-track='{track}']").GetAttribute("aria-label")!.Contains(name, StringComparison.Ordinal), "it is named");
        }

        var overlaps = (string)browser.Driver.ExecuteScript(
            """
            return [...document.querySelectorAll(".drawing a.track")].filter((a) => {
              const [, name, state] = [...a.querySelectorAll("text")].map((t) => t.getBoundingClientRect());
              return name.right > state.left;
            }).map((a) => a.dataset.track).join(" ");
            """)!;
        Assert.Equal("", overlaps);
    }

    /// <summary>A new session of one source with its lines laid and its settings ticked.</summary>
    private static string Make(Browser browser, string chart)
    {
        browser.Open("/");
        browser.Send("#new-name", "By hand");
        browser.Click($"input[name=charts][value={chart}]");
        browser.ClickButton("Make the session");
        browser.WaitUntil(() => browser.All("#lines tbody tr").Count > 0, "the lines are laid");
        if (browser.All(".finding[data-finding^='Settings']").Count > 0)
        {
            browser.Click(".finding[data-finding^='Settings'] .btn-act");
            browser.WaitUntilGone(".finding[data-finding^='Settings']", "the settings are ticked");
        }

        var address = new Uri(browser.Driver.Url).AbsolutePath;
        return address[..address.LastIndexOf('/')];
    }
}

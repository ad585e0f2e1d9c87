using System.Globalization;
using System.Text.RegularExpressions;
using GateSplit.Tests.Shared;

namespace GateSplit.Browser.Tests;

/// <summary>Takes are proved and put right in the browser: heard, seen, handed off.</summary>
public sealed class ProofTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-proof-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public async Task Planted_offset_and_drift_are_found_mended_and_proved_again()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);

        // The groovebox is started 180 ms late by hand, and its clock runs 35 ppm slow.
        browser.Open("/sessions/3/sources");
        browser.Driver.ExecuteScript("const time = document.getElementById('clock-u1'); time.value = 'Free'; time.form.requestSubmit();");
        browser.WaitUntil(
            () =>
            {
                browser.Open("/sessions/3/sources");
                return (string?)browser.Driver.ExecuteScript("return document.getElementById('clock-u1')?.value") == "Free";
            },
            "it runs on its own");
        browser.Open("/sessions/3/line-check");
        foreach (var (field, value) in new[] { ("offset", "180"), ("drift", "35") })
        {
            browser.Driver.ExecuteScript("document.querySelectorAll('.side-column details').forEach(d => d.open = true)");
            browser.Type($"input[name='{field}']", value);
            browser.WaitUntil(() => (string?)browser.Driver.ExecuteScript("return document.querySelector(arguments[0])?.defaultValue", $"input[name='{field}']") == value, "the clock is set");
        }

        Print(browser, 3, 8);
        Prove(browser, 3, "#prove");
        var (late, slow) = (Number(browser, "The take is ([0-9.]+) ms late"), Number(browser, "It runs ([0-9.]+) ppm slow"));
        Assert.InRange(late, 179, 181);
        Assert.InRange(slow, 25, 45);
        Assert.NotEmpty(browser.All("#offsets .plot-dot"));

        // One mend is tried, seen with and without it, and taken back.
        Prove(browser, 3, ".proof-findings form:has([name='seen']) button");
        Assert.Contains($"Without it: All 8 files hold what their names say; {late:0.0} ms late", browser.TextOf("#before-trial"));
        var tried = Shape(browser);
        browser.Send("body", "b");
        browser.WaitUntil(() => browser.Find("#before").GetAttribute("aria-pressed") == "true" && Shape(browser) != tried, "it is drawn without it");
        browser.Click("#drop-mend");
        browser.WaitUntilGone("#trial", "it is taken back");
        Assert.Equal(late, Number(browser, "The take is ([0-9.]+) ms late"));
        Prove(browser, 3, "#mend-sure");
        Assert.Contains("0.0 ms late against the notes; nothing to mend.", browser.TextOf("#verdict"));
        Assert.Contains($"As printed: All 8 files hold what their names say; {late:0.0} ms late", browser.TextOf("#before-mends"));

        // It is seen as it is mended and as it was printed, and heard in both ways.
        var mended = Zoomed(browser);
        browser.Click("#before");
        browser.WaitUntil(() => Shape(browser) != mended, "the printed waveforms are drawn");
        browser.Click("#before");
        browser.WaitUntil(() => Shape(browser) == mended, "the mended waveforms are drawn again");
        browser.Click("#before");
        browser.WaitUntil(() => Shape(browser) != mended, "the printed waveforms are drawn");

        // While it plays, the waveforms follow, so that their shapes are another at each time.
        browser.Click("#play");
        browser.WaitUntil(() => Heard(browser) > 0, "the printed take is heard");
        browser.Click("#before");
        browser.WaitUntil(() => browser.Find("#before").GetAttribute("aria-pressed") == "false" && browser.Find("#player").GetAttribute("data-playing") == "true", "it goes on playing, mended");
        browser.Click("#play");
        browser.Open("/sessions/3/handoff");
        Assert.Matches("All tracks 1(79|80)[.][0-9]{2} ms earlier, and undo", browser.TextOf("#mended"));

        // Taken back, it is what it was.
        browser.Open("/sessions/3/proof");
        Prove(browser, 3, "#undo-mend");
        Assert.Contains("2 to mend", browser.TextOf("#verdict"));
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public async Task A_recording_with_two_tracks_exchanged_and_one_upside_down_is_put_right_at_once()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        Print(browser, 2, 12);
        var files = new Dictionary<string, string>();
        foreach (var row in browser.All(".take-track"))
        {
            var name = row.GetAttribute("data-name")!;
            files[name] = Path.Combine(_folder, $"{name} printed.wav");
            await File.WriteAllBytesAsync(files[name], await app.Http.GetByteArrayAsync(new Uri($"/audio/{row.GetAttribute("data-hash")}", UriKind.Relative)));
        }

        // What the machine printed comes back from another recorder: with low and high tom in each other's place, and the kick upside down.
        // (The session's own fault, kick and snare in each other's place, is put right by the names.)
        var back = new Dictionary<string, (string From, string[] Effects)>
        {
            ["Low tom"] = ("High tom", []),
            ["High tom"] = ("Low tom", []),
            ["Kick"] = ("Snare", ["vol", "-1"]),
            ["Snare"] = ("Kick", []),
            ["Closed hat"] = ("Closed hat", []),
            ["Open hat"] = ("Open hat", []),
            ["Drum mix"] = ("Drum mix", []),
        };
        foreach (var (name, (from, effects)) in back)
        {
            Programs.Run("sox", ["-D", files[from], Path.Combine(_folder, $"{name}.wav"), .. effects]);
        }

        browser.Open("/sessions/2/print");
        browser.Send("#recording", string.Join('\n', back.Keys.Select(n => Path.Combine(_folder, $"{n}.wav"))));
        browser.ClickButton("Bring them in");
        browser.WaitUntil(() => browser.All("#bring-lines").Count > 0, "what goes where is shown");
        browser.ClickButton("Cut and keep as a take");
        browser.WaitUntil(() => browser.All(".take-track").Count == back.Count, "the take is there");
        Prove(browser, 2, "#prove");
        Assert.StartsWith("4 of 6 files hold what their names say; 0.0 ms late against the reference", browser.TextOf("#verdict"), StringComparison.Ordinal);
        Prove(browser, 2, "#mend-sure");
        Assert.Equal(["Turn the polarity of Kick", "Exchange Low tom and High tom"], browser.All("#mends li").Select(l => l.Text));
        Assert.StartsWith("All 6 files hold what their names say; 0.0 ms late against the reference", browser.TextOf("#verdict"), StringComparison.Ordinal);
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public async Task A_roll_call_of_a_room_with_two_crossed_cables_leads_to_the_one_edit_that_puts_it_right()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Open("/sessions/2/line-check");
        browser.Driver.ExecuteScript("document.querySelectorAll('.side-column details').forEach(d => d.open = true)");
        Choose(browser, "a", "Mudlark USB 7");
        Choose(browser, "b", "Mudlark USB 9");
        browser.ClickButton("Cross these two");
        browser.WaitUntil(() => browser.Text.Contains("1 pair crossed"), "the cables are crossed");
        browser.ClickButton("Roll call on the real gear");
        browser.ClickButton("Play it on the simulated rig");
        browser.WaitUntil(() => browser.All("#fix-all").Count > 0, "the roll call is read");
        Assert.StartsWith("2 lines of 12 are not as the split says:", browser.TextOf("#called"), StringComparison.Ordinal);
        Assert.Contains("Closed hat arrives on Mudlark USB 9 instead of Mudlark USB 7, in the place of Low tom: two cables or inputs are exchanged.", browser.Text);
        browser.Click("#fix-all");
        browser.WaitUntil(() => browser.TextOf("#called").StartsWith("What arrives elsewhere is listened to there by now", StringComparison.Ordinal), "all is right");
        Print(browser, 2, 12);
        Prove(browser, 2, "#prove");
        Assert.Contains("This is Closed hat", browser.TextOf(".proof-tracks tr:has(th:first-child)+tr, .proof-tracks"));
        Assert.DoesNotContain("Its name says Closed hat", browser.Text);
        Assert.DoesNotContain("Its name says Low tom", browser.Text);
        Assert.Empty(browser.Complaints);
    }

    private static void Print(Browser browser, int session, int tracks)
    {
        browser.Open($"/sessions/{session}/print?show=before");
        browser.Click("#start");
        browser.WaitUntil(() => browser.All(".take-track").Count == tracks && browser.All("#job").Count == 0, "the take is printed");
    }

    /// <summary>Presses something that has the take proved, and waits until it is.</summary>
    private static void Prove(Browser browser, int session, string button)
    {
        if (browser.All(button).Count == 0)
        {
            browser.Open($"/sessions/{session}/proof");
        }

        browser.Do(button, e => browser.Driver.ExecuteScript("document.body.dataset.old = 'true'; arguments[0].click()", e));
        browser.WaitUntilGone("body[data-old]", "the page comes anew");
        browser.WaitUntilGone("#proof-job, body:not(:has(#verdict))", "the take is proved");
    }

    private static double Number(Browser browser, string pattern) =>
        Regex.Match(browser.Text, pattern, RegexOptions.None, TimeSpan.FromSeconds(1)) is { Success: true } match
            ? double.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture)
            : throw new InvalidOperationException($"The page does not say {pattern}: {browser.Text}");

    private static string Zoomed(Browser browser)
    {
        var whole = Shape(browser);
        browser.ClickButton("Nearer");
        browser.WaitUntil(() => browser.All(".wave[data-shown]").Count == 8 && Shape(browser) != whole, "the waveforms are drawn nearer");
        for (var i = 0; i < 3; i++)
        {
            browser.ClickButton("Nearer");
        }

        browser.WaitUntil(() => browser.All(".wave")[0].GetAttribute("data-shown")!.EndsWith($" {Frames(browser) / 16}", StringComparison.Ordinal), "they are drawn as near as asked for");
        return Shape(browser);
    }

    private static double Frames(Browser browser) => double.Parse(browser.Find("#player").GetAttribute("data-frames")!, CultureInfo.InvariantCulture);

    private static string Shape(Browser browser) => browser.All(".wave .wave-shape path")[0].GetAttribute("d")!;

    private static long Heard(Browser browser) => long.Parse(browser.Find("#player").GetAttribute("data-heard") ?? "0", CultureInfo.InvariantCulture);

    private static void Choose(Browser browser, string name, string option) =>
        browser.Choose($"form:has(select[name='a']) select[name='{name}']", s => s.SelectByText(option));
}

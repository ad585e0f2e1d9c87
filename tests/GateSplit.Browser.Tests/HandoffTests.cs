using System.IO.Compression;
using System.Text.RegularExpressions;
using GateSplit.Core.Charts;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;
using OpenQA.Selenium;

namespace GateSplit.Browser.Tests;

/// <summary>What leaves by the browser, and what a sheet is on paper.</summary>
public sealed class HandoffTests
{
    private const int Rate = 48000;

    [Fact]
    public async Task Relief_Boat_leaves_with_its_mends_stems_and_reference_and_comes_in_again()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);

        // Drums and percussion are a stem.
        browser.Open("/sessions/3/recorder");
        browser.Send("input[name='name'][placeholder='Drums']", "Rhythm" + Keys.Enter);
        browser.WaitUntil(() => browser.All("select[aria-label='Group that sums Drums'] option").Count == 2, "the group is there");
        foreach (var track in new[] { "Drums", "Percussion" })
        {
            browser.Driver.ExecuteScript("const s = document.querySelector(arguments[0]); s.selectedIndex = 1; s.dispatchEvent(new Event('change', { bubbles: true }));", $"select[aria-label='Group that sums {track}']");
            browser.WaitUntil(() => browser.Driver.ExecuteScript("return document.querySelector(arguments[0])?.selectedIndex === 1 && !document.querySelector('.htmx-request')", $"select[aria-label='Group that sums {track}']") is true, $"{track} is in it");
        }

        browser.Open("/sessions/3/print");
        browser.Click("#start");
        browser.WaitUntil(() => browser.All(".take-track").Count == 8 && browser.All("#job").Count == 0, "the take is printed");

        // The take is mended: a tenth of a second earlier.
        browser.Open("/sessions/3/proof");
        Prove(browser, "arguments[0].click()", "#prove");
        Prove(browser, "arguments[0].querySelector('[name=value]').value = '100'; arguments[0].requestSubmit()", "form:has(input[name='mend'][value='move'])");
        browser.ClickCovered("#keep-mend");
        browser.WaitUntilGone("#keep-mend", "the mend is kept");

        browser.Open("/sessions/3/handoff");
        Assert.Contains("All tracks 100.00 ms earlier", browser.TextOf("#mended"));
        browser.Driver.ExecuteScript("document.querySelector('[name=\"file\"][value=\"stem:g1\"]').click()");
        browser.WaitUntil(() => browser.TextOf("#make").StartsWith("Make the handoff: 10 files, ", StringComparison.Ordinal), "the stem is ticked");
        browser.Click("#make");
        browser.WaitUntil(() => browser.All(".made a").Count == 1 && browser.All("#handoff-job").Count == 0, "the handoff is made");
        browser.Click(".made a");
        var zip = Path.Combine(browser.Downloads, "Relief Boat handoff 1.zip");
        browser.WaitUntil(() => File.Exists(zip), "the zip is downloaded");
        var folder = Path.Combine(browser.Downloads, "files");
        await ZipFile.ExtractToDirectoryAsync(zip, folder);
        Programs.Run("bash", "-c", $"cd '{folder}' && sha256sum -c --strict --quiet SHA256SUMS");
        Assert.Equal(["lines/01 Drums.wav", "lines/02 Percussion.wav"], Directory.GetFiles(Path.Combine(folder, "lines")).Order(StringComparer.Ordinal).Take(2).Select(f => Path.GetRelativePath(folder, f)));

        // All at unity and in the middle: the stem is the sum of its two lines, and the lines are the printed ones a tenth of a second later.
        var (drums, percussion, stem) = (Samples(folder, "lines/01 Drums.wav"), Samples(folder, "lines/02 Percussion.wav"), Samples(folder, "stems/01 Rhythm.wav"));
        Assert.Equal(drums.Length, stem.Length);
        Assert.All(Enumerable.Range(0, stem.Length / 997), i => Assert.Equal(drums[i * 997] + percussion[i * 997], stem[i * 997], 3e-7));
        using (var bundle = await Leave(app, browser, 3))
        {
            var track = bundle.Tracks.Single(t => t.Track.Name == "Drums").Track;
            Assert.Null(bundle.TakeOut(track, Path.Combine(folder, "printed.wav"), CancellationToken.None));
            Assert.Equal(Samples(folder, "printed.wav")[(2 * Rate / 10)..], drums);
        }

        // The mix is the sum of all eight lines; the last two are panned apart.
        var mix = Samples(folder, "reference/01 Mix of all lines.wav");
        var sides = Directory.GetFiles(Path.Combine(folder, "lines")).Order(StringComparer.Ordinal).Select(f => Samples(folder, Path.GetRelativePath(folder, f))).ToList();
        Assert.Equal(8, sides.Count);
        Assert.All(Enumerable.Range(0, mix.Length / 2 / 991), i =>
        {
            var at = i * 991;
            Assert.Equal(sides.Take(6).Sum(s => s[2 * at]) + sides[6][at], mix[2 * at], 1e-6);
            Assert.Equal(sides.Take(6).Sum(s => s[2 * at + 1]) + sides[7][at], mix[2 * at + 1], 1e-6);
        });

        // The whole session comes in as another one, mends and all.
        browser.Open("/");
        browser.Send("#session-file", Path.Combine(browser.Downloads, "Relief Boat session.zip"));
        browser.ClickButton("Bring it in");
        browser.WaitUntil(() => browser.Driver.Url.EndsWith("/split", StringComparison.Ordinal), "it is brought in");
        Assert.DoesNotContain("/sessions/3/", browser.Driver.Url);
        browser.Click(".station[href$='/handoff']");
        Assert.Contains("All tracks 100.00 ms earlier", browser.TextOf("#mended"));
        Assert.Empty(browser.Complaints);
    }

    [Theory]
    [InlineData(21.0, 29.7)]
    [InlineData(21.59, 27.94)]
    public void A_track_sheet_of_sixteen_lines_in_two_passes_is_one_page_of_paper(double width, double height)
    {
        using var browser = new Browser(1);
        var path = Path.Combine(browser.Downloads, "sheet.html");
        File.WriteAllText(path, Sheet(16));
        browser.Driver.Navigate().GoToUrl(new Uri(path));
        Assert.Equal(1, Pages(browser, width, height));
        Assert.Equal(2L, browser.Driver.ExecuteScript("return [...document.querySelectorAll('svg')].filter(s => s.getBoundingClientRect().height > 90).length")); // drawings that can be read
        File.WriteAllText(path, Sheet(60));
        browser.Driver.Navigate().Refresh();
        Assert.True(Pages(browser, width, height) > 1);
    }

    /// <summary>Does something that has the take proved, and waits until it is.</summary>
    private static void Prove(Browser browser, string act, string on)
    {
        browser.Do(on, e => browser.Driver.ExecuteScript($"document.body.dataset.old = 'true'; {act}", e));
        browser.WaitUntilGone("body[data-old]", "the page comes anew");
        browser.WaitUntilGone("#proof-job, body:not(:has(#verdict))", "the take is proved");
    }

    private static int Pages(Browser browser, double width, double height)
    {
        var paper = new PrintOptions { PageDimensions = new PrintOptions.PageSize { Width = width, Height = height }, PageMargins = new PrintOptions.Margins { Top = 0.9, Bottom = 0.9, Left = 0.9, Right = 0.9 }, ShrinkToFit = false };
        var pdf = System.Text.Encoding.Latin1.GetString(browser.Driver.Print(paper).AsByteArray);
        return Regex.Count(pdf, @"/Type\s*/Page\b(?!s)", RegexOptions.None, TimeSpan.FromSeconds(10));
    }

    private static string Sheet(int lines)
    {
        var song = Song.Of(CheckPattern.Of([TansyGrid.Chart], Tempo.Default));
        var split = StartingSplit.Of([TansyGrid.Chart, WickerKeys.Chart], (int)song.Bars, Rate);
        split = Layer.Propose(SplitView.Of(split, song), new LayWish()).Edit!.Apply(split).Value!;
        split = split with { Tracks = [.. split.Tracks.Take(16).Select((t, i) => t with { Pass = 1 + i / 8 })] };
        var take = new HandoffTake(1, true, new DateTime(2026, 11, 28, 16, 10, 0, DateTimeKind.Local), "", SplitView.Of(split, song), song, []);
        var format = new AudioFormat(2, Rate, SampleFormat.Pcm24);
        var material = new HandoffMaterial(
            "Sixteen lines",
            split,
            [.. Enumerable.Range(0, lines).Select(i => new HandoffLine(new TrackId(i + 1), $"Percussion {i + 1} left", take, $"Tansy Grid port {i + 1}, Socket {i + 1}-{i + 2}", $"{i}", format, 100, RenderPlan.AsItIs(2, 100), false)
            {
                Verdict = "This is the percussion: 96 of 96 hits. 1.2 ms late. Kick bleeds in at −31.2 dB.",
                Remark = i % 4 == 0 ? "Play it again louder." : "",
            })],
            ["All tracks 12.00 ms earlier, and undo 35.0 ppm"]);
        var plan = HandoffPlan.Of(material, new HandoffWish { Files = [.. material.Lines.Select(l => l.Key)] }, take.Made).Value!;
        return PrintedSheet.Write(material, material.Takes, [.. plan.Files.Select(f => new HandoffWritten(f, 5, new string('a', 64)))], take.Made);
    }

    private static async Task<BundleReader> Leave(IRunningApp app, Browser browser, int session)
    {
        var path = Path.Combine(browser.Downloads, "Relief Boat session.zip");
        await File.WriteAllBytesAsync(path, await app.Http.GetByteArrayAsync(new Uri($"/sessions/{session}/session.zip", UriKind.Relative)));
        return BundleReader.Open(path).Value!;
    }

    private static float[] Samples(string folder, string name) => Programs.Samples(Path.Combine(folder, name));
}

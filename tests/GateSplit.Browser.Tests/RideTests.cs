using System.Globalization;
using GateSplit.Core.Sound;
using GateSplit.Tests.Shared;
using OpenQA.Selenium.Interactions;

namespace GateSplit.Browser.Tests;

/// <summary>A ride is performed with the mouse while the last take plays, kept, and heard in the next print.</summary>
public sealed class RideTests
{
    [Fact]
    public async Task A_filter_is_opened_by_hand_and_the_file_opens_with_it()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);
        browser.Open("/sessions/1/print");
        browser.WaitUntil(() => browser.All(".take-track").Count == 12, "the demo take is printed");
        browser.Driver.ExecuteScript("document.getElementById('pass-bars').closest('details').open = true");
        browser.Type("#pass-bars", "3");
        browser.WaitUntil(() => browser.Text.Contains("3 bars of", StringComparison.Ordinal), "the pass is short");
        Print(browser, take: 2);

        browser.Open("/sessions/1/ride?of=u1%2Fhat&control=Filter");
        browser.Send("#points", "1 150"); // it begins closed
        browser.ClickButton("Perform it to take 2");
        browser.WaitUntil(() => browser.Find("#ride").GetAttribute("data-performing") == "true", "it plays");
        var area = browser.Find("#ride svg");
        var height = area.Size.Height;

        // The hand goes with the music, however fast this machine is: from the bottom to the top in the first half.
        while (browser.Find("#ride").GetAttribute("data-performing") == "true")
        {
            var share = Math.Clamp(2 * double.Parse(browser.Find("#ride-now").GetAttribute("x1")!, CultureInfo.InvariantCulture) / 1000, 0, 1);
            new Actions(browser.Driver).MoveToElement(area, 0, (int)(height * (0.48 - 0.96 * share))).Perform();
        }

        browser.WaitUntil(() => browser.Find("#ride").GetAttribute("data-performing") is null, "the take has ended");
        Assert.True(browser.Find("#points").GetAttribute("value")!.Split(',').Length > 2);
        browser.ClickButton("Keep the ride");
        browser.WaitUntil(() => browser.Find("#undo").GetAttribute("title") == "Undo: Ride the filter of Hat", "the ride is kept");
        Assert.Contains("Hat", browser.TextOf("#ride-title"));
        Assert.NotEqual("", browser.Find("#points").GetAttribute("value"));
        browser.Open("/sessions/1/print");
        Print(browser, take: 3);

        // What the filter lets through of the hat, against the take without it: little at first, much in the end.
        double Share(double from, double to) => Brightness(app, browser, 3, from, to) / Brightness(app, browser, 2, from, to);
        var (first, last) = (Share(0.02, 0.2), Share(0.5, 0.75));
        Assert.True(first < 0.5 && last > 1.5 * first, $"{first} at first, {last} in the end");
        Assert.Empty(browser.Complaints);
    }

    private static void Print(Browser browser, int take)
    {
        browser.ClickButton("Print 12 tracks");
        browser.WaitUntil(() => browser.Text.Contains($"Take {take}") && browser.All(".take-track").Count == 12, $"take {take} is there");
    }

    /// <summary>The sum of the differences from sample to sample, which grows with the frequency.</summary>
    private static double Brightness(IRunningApp app, Browser browser, int take, double from, double to)
    {
        browser.Open($"/sessions/1/print?take={take}");
        var hash = browser.Find(".take-track[data-name='Hat']").GetAttribute("data-hash")!;
        using var file = WaveReader.Open(Directory.GetFiles(Path.Combine(app.Folder, "audio"), hash + "*", SearchOption.AllDirectories).Single()).Value!;
        var bytes = new byte[(long)(file.Frames.Count * (to - from)) * file.Format.BytesPerFrame];
        var samples = new float[file.Read(new((long)(file.Frames.Count * from)), bytes)];
        SampleCodec.Decode(bytes, file.Format, 0, samples);
        return samples.Zip(samples.Skip(1), (a, b) => Math.Abs(a - b)).Sum();
    }
}

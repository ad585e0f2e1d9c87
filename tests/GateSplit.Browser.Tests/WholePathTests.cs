using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Tests.Shared;

namespace GateSplit.Browser.Tests;

/// <summary>From a split with faults to a folder of named tracks, as a person goes.</summary>
public sealed class WholePathTests
{
    [Fact]
    public async Task From_findings_to_named_files()
    {
        await using var app = await PageApp.Start();
        using var browser = new Browser(app.Port);

        // Open Fog Signal and see its findings.
        browser.Open("/");
        browser.Click("a.row-link[href='/sessions/2/split']");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 8, "the eight planted faults are told");
        Assert.StartsWith("Mend Kick listens to Mudlark USB 4, where Snare arrives, and Snare to Mudlark USB 3, where Kick arrives", browser.All(".finding")[0].Text, StringComparison.Ordinal);
        Assert.Contains("Clap goes out of port 5 of Mudlark Nine (Mudlark USB 6), and no track listens there", browser.Text);
        Assert.Contains("Hall return of Wicker Keys lands on port 1, on top of Deep kick", browser.Text);

        // One by its button, and two exchanged cables with one press.
        browser.ClickButton("Set Low tom's fader to unity");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 7, "the fader's finding is gone");
        Assert.Contains("track 2, Kick, at", ChosenWay(browser, "element:u1/snare"));
        browser.Open("/sessions/2/split");
        browser.ClickButton("Exchange their inputs");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 6, "kick and snare are where they belong");
        Assert.Contains("track 3, Snare, at 0.0 dB", ChosenWay(browser, "element:u1/snare"));

        // What follows from a cause goes with it.
        browser.Open("/sessions/2/split");
        browser.Click(".finding[data-finding='MeantElsewhere@unit:u2'] .consequences summary");
        Assert.Contains("and no track listens there", browser.TextOf(".finding[data-finding='MeantElsewhere@unit:u2'] .consequences ul"));
        browser.ClickButton("Put the inputs of 4 lines right");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 5, "the keys are where they arrive");

        // Undo, redo.
        browser.Click("#undo");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 6, "undo brings the finding back");
        browser.Click("#redo");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 5, "redo takes it away again");
        browser.ClickButton("Add a track for Clap on Mudlark USB 6");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 4, "the clap has a track");
        Assert.Contains("track 4, Clap, at 0.0 dB", ChosenWay(browser, "element:u1/clap"));
        browser.Open("/sessions/2/split");
        browser.ClickButton("Silence Drum mix");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 3, "the mix is silenced");
        browser.ClickButton("Stop hearing Mudlark USB directly");
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 2, "the drum machine is heard once");
        browser.ClickButton(browser.All(".finding-warning button").Select(b => b.Text).Single(t => t.StartsWith("Switch Mudlark USB", StringComparison.Ordinal)));
        browser.WaitUntil(() => browser.All(".finding-warning").Count == 1, "the cymbal's input is on");
        browser.ClickButton("Move Hall return to port 4");
        browser.WaitUntil(() => browser.Text.Contains("Nothing to mend"), "nothing is left to mend");

        // Print and watch progress end.
        browser.Click(".station[href$='/print']");
        browser.ClickButton("Print 13 tracks");
        browser.WaitUntil(() => browser.All("#job progress").Count > 0 || browser.All(".take-track").Count == 13, "progress is shown");
        browser.WaitUntil(() => browser.All(".take-track").Count == 13, "the take is there");

        // Play a track alone.
        browser.Click(".take-track[data-name='Snare'] [data-solo]");
        browser.Click("#play");
        browser.WaitUntil(() => browser.Find("#player").GetAttribute("data-playing") == "true", "it plays");
        browser.WaitUntil(() => double.Parse(browser.Find("#player").GetAttribute("data-heard") ?? "0") > 48000, "a second was heard");
        browser.Click("#play");
        Assert.Equal("Play", browser.TextOf("#play"));

        // Make the handoff and download it.
        browser.Click(".station[href$='/handoff']");
        browser.Click("#make");
        browser.WaitUntil(() => browser.All(".made a").Count == 1 && browser.All("#handoff-job").Count == 0, "the handoff is made");
        browser.Click(".made a");
        var zip = Path.Combine(browser.Downloads, "Fog Signal handoff 1.zip");
        browser.WaitUntil(() => File.Exists(zip), "the zip is downloaded");
        Assert.Empty(browser.Complaints);
        CheckZip(zip, Path.Combine(browser.Downloads, "files"));
    }

    private static string ChosenWay(Browser browser, string place)
    {
        browser.Open($"/sessions/2/split?line={Uri.EscapeDataString(place)}");
        return browser.TextOf(".way");
    }

    private static void CheckZip(string zip, string folder)
    {
        ZipFile.ExtractToDirectory(zip, folder);
        string[] names =
        [
            "lines/01 Kick.wav", "lines/02 Snare.wav", "lines/03 Clap.wav", "lines/04 Closed hat.wav", "lines/05 Open hat.wav", "lines/06 Low tom.wav", "lines/07 High tom.wav", "lines/08 Cymbal.wav",
            "lines/09 Deep kick.wav", "lines/10 Keel bass.wav", "lines/11 Mist pad.wav", "lines/12 Buoy bell.wav", "effects/01 Hall return.wav", "reference/01 Mix of all lines.wav",
        ];
        Assert.Equal(["SHA256SUMS", "how to lay these out.txt", "manifest.json", "track sheet.html", "tracks.csv"], Directory.GetFiles(folder).Select(f => Path.GetFileName(f)!).Order(StringComparer.Ordinal));
        Programs.Run("bash", "-c", $"cd '{folder}' && sha256sum -c --strict --quiet SHA256SUMS");
        Programs.Run("unzip", "-tqq", zip);

        // Sixteen bars of four quarters at 652,174 microseconds, and the tail, the same in every file.
        const long body = 16L * 4 * 652_174 * 48_000 / 1_000_000;
        var lengths = names.Select(n => long.Parse(Programs.Run("soxi", "-s", Path.Combine(folder, n)))).Distinct().ToList();
        Assert.Single(lengths);
        Assert.InRange(lengths[0], body + 24_000, body + 6 * 48_000);
        foreach (var name in names)
        {
            var path = Path.Combine(folder, name);
            Assert.Equal("24", Programs.Run("soxi", "-b", path));
            Assert.Equal("48000", Programs.Run("soxi", "-r", path));
            Assert.Equal(name.StartsWith("lines", StringComparison.Ordinal) ? "1" : "2", Programs.Run("soxi", "-c", path));
            Assert.Contains("pcm_s24le", Programs.Run("ffprobe", "-v", "error", "-show_entries", "stream=codec_name", path));
        }

        CheckOnsets(Path.Combine(folder, "lines/02 Snare.wav"), channel: 10, key: 38);
        CheckOnsets(Path.Combine(folder, "lines/01 Kick.wav"), channel: 10, key: 36);
        CheckManifest(folder, names);
    }

    /// <summary>The file has onsets where the notes are and nowhere else.</summary>
    private static void CheckOnsets(string path, int channel, int key)
    {
        var song = Song.Of(FogSignal.Session.Song);
        var notes = song.Notes.Where(n => n.Channel == channel && n.Key == key).Select(n => song.Tempos.ToFrames(n.StartTick, 48000).Count).ToList();
        var onsets = Programs.Onsets(Programs.Samples(path), above: 0.004f, rise: 2.5f);
        Assert.All(notes, n => Assert.True(n == 0 || onsets.Any(o => Math.Abs(o - n) < 480), $"no onset at the note at {n}"));
        Assert.All(onsets, o => Assert.True(notes.Any(n => Math.Abs(o - n) < 480), $"an onset at {o} where no note is"));
    }

    private static void CheckManifest(string folder, string[] names)
    {
        using var manifest = JsonDocument.Parse(File.ReadAllBytes(Path.Combine(folder, "manifest.json")));
        var files = manifest.RootElement.GetProperty("files").EnumerateArray().ToList();
        Assert.Equal(names, files.Select(f => f.GetProperty("file").GetString()));
        foreach (var file in files)
        {
            var path = Path.Combine(folder, file.GetProperty("file").GetString()!);
            Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(File.ReadAllBytes(path))), file.GetProperty("sha256").GetString());
            var peak = Programs.Samples(path).Max(Math.Abs);
            Assert.Equal(20 * Math.Log10(peak), file.GetProperty("levels").GetProperty("samplePeakDbfs").GetDouble(), 0.01);
        }

        Assert.Equal(15, File.ReadAllLines(Path.Combine(folder, "tracks.csv")).Length);
    }
}

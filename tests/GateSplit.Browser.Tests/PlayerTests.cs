using GateSplit.Tests.Shared;

namespace GateSplit.Browser.Tests;

/// <summary>The part of the player that mixes, run faster than real time in the browser's own renderer.</summary>
public sealed class PlayerTests(DemoApp demo)
{
    /// <summary>
    /// Two tracks in chunks of odd lengths: one with a click every 1000 frames, one with the same clicks upside down.
    /// Returns the frames that sound on each side.
    /// </summary>
    private const string Mix = """
        const [gains, done] = arguments;
        (async () => {
          const context = new OfflineAudioContext(2, 24000, 48000);
          await context.audioWorklet.addModule("/js/player-worklet.js");
          const node = new AudioWorkletNode(context, "take-player", { numberOfInputs: 0, outputChannelCount: [2] });
          node.connect(context.destination);
          node.port.postMessage({ gains });
          let start = 0;
          for (const frames of [777, 1, 4096, 129, 5000, 2500]) {
            const clicks = (level) => Float32Array.from({ length: frames }, (_, i) => ((start + i) % 1000 === 0 ? level : 0));
            node.port.postMessage({ chunk: { start, frames, tracks: [[clicks(0.5)], [clicks(-0.5), clicks(0.25)]], last: false } });
            start += frames;
          }
          await new Promise((resolve) => setTimeout(resolve, 300));
          const rendered = await context.startRendering();
          const sounding = (side) => [...rendered.getChannelData(side)].flatMap((x, i) => (x !== 0 ? [`${i}:${x}`] : []));
          done(JSON.stringify([sounding(0), sounding(1)]));
        })();
        """;

    [Fact]
    public void Tracks_stay_in_step_to_the_sample_across_chunks_of_any_length()
    {
        var clicks = Enumerable.Range(0, 13).Select(i => i * 1000).ToList();

        // Together the left sides cancel exactly, so not one sample lies beside its partner.
        Assert.Equal([[], [.. clicks.Select(c => $"{c}:0.75")]], Render(1, 1));
        Assert.Equal([[.. clicks.Select(c => $"{c}:0.5")], [.. clicks.Select(c => $"{c}:0.5")]], Render(1, 0));
        Assert.Equal([[.. clicks.Select(c => $"{c}:-0.5")], [.. clicks.Select(c => $"{c}:0.25")]], Render(0, 1));
    }

    private string[][] Render(params double[] gains)
    {
        using var browser = new Browser(demo.App.Port);
        browser.Open("/");
        browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromMinutes(2);
        var json = (string)browser.Driver.ExecuteAsyncScript(Mix, [gains.Select(g => new[] { g, g }).ToArray()])!;
        return System.Text.Json.JsonSerializer.Deserialize<string[][]>(json)!;
    }
}

using System.Net.WebSockets;
using System.Runtime.InteropServices;
using System.Text;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.StandIns;
using GateSplit.Tests.Shared;
using GateSplit.Web.Live;

namespace GateSplit.Web.Tests;

/// <summary>Listening live over the web socket, as a player in the browser would.</summary>
public sealed class LiveTests
{
    private const int Rate = 48000;
    private const string Bass = "lines t10";

    [Fact]
    public async Task A_session_is_sent_as_it_sounds_a_little_ahead_of_what_was_played_and_edits_and_hands_are_heard()
    {
        await using var app = await PageApp.Start();
        using var visitor = new Visitor(app);
        using var listener = await Listener.Open(app, $"/sessions/2/live?ear={Uri.EscapeDataString(Bass)}&bar=3&click=Off");
        var rig = new LiveRig(FogSignal.Session.Split, Song.Of(FogSignal.Session.Song), Ear.Parse(Bass), startBar: 3);

        // Nothing was played yet, so it waits after a fifth of a second.
        await listener.HearUntil(l => l.Heard.Count > LiveListen.AheadSeconds * Rate);
        Assert.InRange(listener.Heard.Count, LiveListen.AheadSeconds * Rate, LiveListen.AheadSeconds * Rate + LiveRig.BlockFrames);
        Assert.Equal(3, listener.Bars[0], 0.0001);
        Assert.False(await listener.HearsMore(TimeSpan.FromMilliseconds(400)));

        // What was played makes rig for as much again, and it is the bass from its first note on.
        await listener.PlayUntil(l => l.Heard.Count > 2 * Rate);
        var expected = Render(rig, 30 * Rate);
        Assert.True(expected[..Rate].Max() > 0.01);
        AssertEqual(expected[..listener.Heard.Count], [.. listener.Heard]);

        // An edit from any page is heard, and all that comes behind it is as the split is now. It takes a while, in which
        // a second of sound takes a second, as in a rig: played as fast as it comes, the song could be over before.
        var before = listener.Heard.Count;
        await visitor.Get("/sessions/2/split?line=element%3Au2%2Fbass");
        await visitor.Send("form:has(#ins-fader)", new Dictionary<string, string> { ["value"] = "-20" });
        var changed = before;
        await listener.PlayUntil(
            l =>
            {
                while (changed < l.Heard.Count && Math.Abs(l.Heard[changed] - expected[changed]) <= 1e-4)
                {
                    changed++;
                }

                return changed < l.Heard.Count;
            },
            inTime: true);
        await listener.PlayUntil(l => l.Heard.Count > changed + 2 * Rate);
        AssertEqual([.. expected[(changed + 2 * LiveRig.BlockFrames)..listener.Heard.Count].Select(s => 0.1f * s)], [.. listener.Heard.Skip(changed + 2 * LiveRig.BlockFrames)]);

        // A control that is held answers with the place where it was moved; it is heard from there.
        await listener.Tell("""{"hold":{"of":"u2/bass","control":"Mute","value":1}}""");
        await listener.PlayUntil(l => l.Said.Count > 0);
        Assert.Contains("\"moved\"", listener.Said[0]);
        await listener.PlayUntil(l => l.Heard.Count > Rate && l.Heard.TakeLast(Rate / 2).All(s => s == 0));
        await listener.Tell("""{"letGo":true}""");
        await listener.PlayUntil(l => l.Heard.TakeLast(LiveRig.BlockFrames).Any(s => s != 0));
    }

    [Fact]
    public async Task It_ends_with_the_pass_and_other_origins_get_nothing()
    {
        await using var app = await PageApp.Start();
        using (var listener = await Listener.Open(app, "/sessions/2/live?ear=mix&bar=16&click=CountIn"))
        {
            await listener.PlayUntil(l => l.Said.Count > 0);
            Assert.Contains("\"ended\":true", listener.Said[0]);

            // A bar is counted and a bar is played, each of four quarters, and then it rings.
            Assert.InRange(listener.Heard.Count, 2 * 4 * 60.0 / 92 * Rate, 16 * 60.0 / 92 * Rate);
        }

        await Assert.ThrowsAsync<WebSocketException>(() => Listener.Open(app, "/sessions/2/live?ear=mix", "http://elsewhere.example"));
        await Assert.ThrowsAsync<WebSocketException>(() => Listener.Open(app, "/sessions/99/live?ear=mix"));
    }

    [Fact]
    public async Task A_session_that_howls_is_not_played_and_the_reason_is_said()
    {
        await using var app = await PageApp.Start();
        using var visitor = new Visitor(app);

        // The track that records the looped-back pair is sent to the pair itself.
        await visitor.Get("/sessions/5/split?line=track%3At2");
        await visitor.Send("form:has(input[value='bus'])", new Dictionary<string, string> { ["bus"] = "in1:1" });
        using var listener = await Listener.Open(app, "/sessions/5/live?ear=mix");
        await listener.PlayUntil(l => l.Said.Count > 0);
        Assert.Contains("\"ended\":true", listener.Said[0]);
        Assert.Contains("runs in a circle", listener.Said[0]);
        Assert.Empty(listener.Heard);
    }

    private static float[] Render(LiveRig rig, int frames)
    {
        var samples = new List<float>();
        float[] left = new float[LiveRig.BlockFrames], right = new float[LiveRig.BlockFrames];
        while (samples.Count < frames)
        {
            samples.AddRange(left[..rig.Render(left, right).Frames]);
        }

        return [.. samples];
    }

    private static void AssertEqual(float[] expected, float[] actual)
    {
        Assert.Equal(expected.Length, actual.Length);
        for (var i = 0; i < expected.Length; i++)
        {
            if (Math.Abs(expected[i] - actual[i]) > 2e-6)
            {
                Assert.Fail($"At {i} it is {actual[i]}, and should be {expected[i]}.");
            }
        }
    }

    /// <summary>Takes the sound in as fast as it comes, and says what was played only when told to.</summary>
    private sealed class Listener : IDisposable
    {
        private readonly ClientWebSocket _socket = new();
        private readonly byte[] _buffer = new byte[16384];
        private Task<WebSocketReceiveResult>? _receiving;

        /// <summary>The left side of all that came.</summary>
        public List<float> Heard { get; } = [];

        /// <summary>The bar of each block.</summary>
        public List<double> Bars { get; } = [];

        /// <summary>What was said between the blocks.</summary>
        public List<string> Said { get; } = [];

        public static async Task<Listener> Open(IRunningApp app, string path, string? origin = null)
        {
            var listener = new Listener();
            listener._socket.Options.SetRequestHeader("Origin", origin ?? $"http://127.0.0.1:{app.Port}");
            await listener._socket.ConnectAsync(new Uri($"ws://127.0.0.1:{app.Port}{path}"), CancellationToken.None);
            return listener;
        }

        public Task Tell(string what) => _socket.SendAsync(Encoding.UTF8.GetBytes(what), WebSocketMessageType.Text, true, CancellationToken.None);

        public async Task HearUntil(Func<Listener, bool> condition)
        {
            while (!condition(this))
            {
                await Next();
            }
        }

        public async Task PlayUntil(Func<Listener, bool> condition, bool inTime = false)
        {
            while (!condition(this))
            {
                await Task.Delay(inTime ? TimeSpan.FromSeconds((double)LiveRig.BlockFrames / Rate) : TimeSpan.Zero);
                await Tell($$"""{"played":{{Heard.Count}}}""");
                await Next();
            }
        }

        public async Task<bool> HearsMore(TimeSpan patience)
        {
            _receiving ??= _socket.ReceiveAsync(_buffer, CancellationToken.None);
            return await Task.WhenAny(_receiving, Task.Delay(patience)) == _receiving;
        }

        public void Dispose() => _socket.Dispose();

        private async Task Next()
        {
            var received = await (_receiving ?? _socket.ReceiveAsync(_buffer, CancellationToken.None)).WaitAsync(TimeSpan.FromMinutes(5));
            _receiving = null;
            Assert.True(received.EndOfMessage);
            if (received.MessageType == WebSocketMessageType.Text)
            {
                Said.Add(Encoding.UTF8.GetString(_buffer, 0, received.Count));
                return;
            }

            Assert.Equal(WebSocketMessageType.Binary, received.MessageType);
            Bars.Add(BitConverter.ToDouble(_buffer));
            Heard.AddRange(MemoryMarshal.Cast<byte, float>(_buffer.AsSpan(8, (received.Count - 8) / 2)).ToArray());
        }
    }
}

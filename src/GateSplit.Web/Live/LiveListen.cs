using System.Buffers.Binary;
using System.Net.WebSockets;
using System.Runtime.InteropServices;
using System.Text.Json;
using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Data;
using GateSplit.Web.Sessions;

namespace GateSplit.Web.Live;

/// <summary>
/// Somebody who listens live. Blocks of sound go out as binary messages: the bar at which a block begins as a 64-bit
/// float, then the left and the right side as 32-bit floats, all little-endian. Text messages are JSON: the listener says
/// what was played, what is to be heard and how controls are moved; the session says what to know about it.
/// </summary>
public sealed class LiveListen
{
    /// <summary>How far the sound that is sent may lie ahead of what was played.</summary>
    public const double AheadSeconds = 0.2;

    private static readonly TimeSpan Farewell = TimeSpan.FromSeconds(5);
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(5);
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    private readonly Watch<SessionNow?> _watch;
    private readonly long _id;
    private readonly WebSocket _socket;
    private readonly LiveRig _rig;
    private readonly SampleRate _sampleRate;
    private readonly SemaphoreSlim _sending = new(1);
    private OpenSession _session;
    private Ear _ear;
    private long _played;
    private bool _changed;
    private Task<LiveRig.Prepared>? _preparing;

    /// <summary>Begins to listen.</summary>
    /// <param name="watch">Sessions as they are now.</param>
    /// <param name="session">The session.</param>
    /// <param name="socket">The listener.</param>
    /// <param name="ear">What is listened to.</param>
    /// <param name="startBar">The bar in which the sources start.</param>
    /// <param name="pass">The pass.</param>
    /// <param name="click">When the click is heard.</param>
    public LiveListen(Watch<SessionNow?> watch, OpenSession session, WebSocket socket, Ear ear, int startBar, int pass, ClickMode click)
    {
        (_watch, _id, _session, _socket, _ear) = (watch, session.State.Id, session, socket, ear);
        _sampleRate = session.State.Split.Pass.SampleRate;
        _rig = new LiveRig(session.State.Split, session.Song, ear, startBar, pass, click);
    }

    /// <summary>Why a session cannot be heard; null if it can.</summary>
    public static string? Refusal(IEnumerable<Finding> findings) => findings.FirstOrDefault(f => f.Severity == Severity.Stop)?.Sentence;

    /// <summary>Tells a listener why there is nothing to hear.</summary>
    public static async Task Refuse(WebSocket socket, string refusal, CancellationToken cancel)
    {
        await socket.SendAsync(JsonSerializer.SerializeToUtf8Bytes(new { said = refusal, ended = true }, Json), WebSocketMessageType.Text, endOfMessage: true, cancel);
        await socket.CloseAsync(WebSocketCloseStatus.NormalClosure, null, cancel);
    }

    /// <summary>Plays until the pass ends or the listener goes.</summary>
    public async Task Run(CancellationToken cancel)
    {
        using var over = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var reading = Read(over);
        var watching = Watch(over.Token);
        try
        {
            await Play(over.Token);
            await Say(new { ended = true }, over.Token);
            await _socket.CloseOutputAsync(WebSocketCloseStatus.NormalClosure, null, over.Token);

            // What is still on its way arrives before the connection is dropped.
            await Task.WhenAny(reading, Task.Delay(Farewell, over.Token));
        }
        catch (Exception e) when (e is OperationCanceledException or WebSocketException)
        {
            // The listener has gone.
        }

        await over.CancelAsync();
        await Task.WhenAll(reading, watching);
    }

    private async Task Play(CancellationToken cancel)
    {
        float[] left = new float[LiveRig.BlockFrames], right = new float[LiveRig.BlockFrames];
        var message = new byte[sizeof(double) + 2 * sizeof(float) * LiveRig.BlockFrames];
        long sent = 0;
        while (!_rig.HasEnded)
        {
            TakeChanges();
            if (sent - Volatile.Read(ref _played) > AheadSeconds * _sampleRate)
            {
                await Task.Delay(Pause, cancel);
                continue;
            }

            int frames;
            lock (_rig)
            {
                (var start, frames) = _rig.Render(left, right);
                BinaryPrimitives.WriteDoubleLittleEndian(message, _rig.BarAt(Frames.Max(0, start)));
            }

            var bytes = sizeof(float) * frames;
            MemoryMarshal.AsBytes(left.AsSpan(0, frames)).CopyTo(message.AsSpan(sizeof(double)));
            MemoryMarshal.AsBytes(right.AsSpan(0, frames)).CopyTo(message.AsSpan(sizeof(double) + bytes));
            await Send(message.AsMemory(0, sizeof(double) + 2 * bytes), WebSocketMessageType.Binary, cancel);
            sent += frames;
        }
    }

    /// <summary>What was changed is set up beside the playing, and taken once it is ready.</summary>
    private void TakeChanges()
    {
        if (_preparing is { IsCompletedSuccessfully: true })
        {
            lock (_rig)
            {
                _rig.Take(_preparing.Result);
            }
        }

        if (_preparing is { IsCompleted: true })
        {
            _preparing = null;
        }

        if (_preparing is null && Interlocked.Exchange(ref _changed, false))
        {
            var (split, ear, frame) = (_session.State.Split, _ear, _rig.Position);
            _preparing = Task.Run(() => _rig.Prepare(split, ear, frame));
        }
    }

    /// <summary>Looks for edits, from whichever window they come.</summary>
    private async Task Watch(CancellationToken cancel)
    {
        try
        {
            // While the database is away it plays on as it was; the pages say so.
            await foreach (var (now, _) in _watch.Follow(_id, cancel))
            {
                if (now is not var (session, findings) || session.State.Revision == _session.State.Revision)
                {
                    continue;
                }

                if (session.State.SongId != _session.State.SongId)
                {
                    await Say(new { said = "The song was replaced. What you hear is the one before; listen again to hear the new one." }, cancel);
                    continue;
                }

                _session = session;
                if (Refusal(findings) is { } refusal)
                {
                    await Say(new { said = $"What you hear is the session before this edit: {refusal}" }, cancel);
                    continue;
                }

                Volatile.Write(ref _changed, true);
            }
        }
        catch (Exception e) when (e is OperationCanceledException or WebSocketException)
        {
            // The listener has gone.
        }
    }

    private async Task Read(CancellationTokenSource over)
    {
        var buffer = new byte[4096];
        try
        {
            while (true)
            {
                var received = await _socket.ReceiveAsync(buffer.AsMemory(), over.Token);
                if (received.MessageType == WebSocketMessageType.Close || !received.EndOfMessage)
                {
                    break;
                }

                if (received.MessageType == WebSocketMessageType.Text && JsonSerializer.Deserialize<Wish>(buffer.AsSpan(0, received.Count), Json) is { } wish)
                {
                    await Obey(wish, over.Token);
                }
            }
        }
        catch (Exception e) when (e is OperationCanceledException or WebSocketException or JsonException)
        {
            // It has gone, or speaks another language.
        }

        await over.CancelAsync();
    }

    private async Task Obey(Wish wish, CancellationToken cancel)
    {
        if (wish.Played is { } played)
        {
            Volatile.Write(ref _played, played);
        }

        if (wish.Ear is { } ear)
        {
            _ear = Ear.Parse(ear);
            Volatile.Write(ref _changed, true);
        }

        if (wish.Round is { } round)
        {
            lock (_rig)
            {
                _rig.Round = round is [var from, var to] && from >= 1 && from <= to && to <= _session.State.Split.Pass.LengthBars ? (from, to) : null;
            }
        }

        if (wish.Hold is { Of: { } of, Value: var value } hold && of.Split('/', 2) is [var unit, var element] && Enum.TryParse<RideControl>(hold.Control, ignoreCase: true, out var control) && double.IsFinite(value))
        {
            double bar;
            lock (_rig)
            {
                if (!_rig.Move(new ElementRef(new UnitId(unit), new ElementId(element)), control, value))
                {
                    Volatile.Write(ref _changed, true);
                }

                bar = _rig.BarAt(_rig.SoundingFrame);
            }

            await Say(new { moved = new { bar, value } }, cancel);
        }

        if (wish.LetGo)
        {
            _rig.LetGo();
            Volatile.Write(ref _changed, true);
        }
    }

    private Task Say(object what, CancellationToken cancel) => Send(JsonSerializer.SerializeToUtf8Bytes(what, Json), WebSocketMessageType.Text, cancel);

    private async Task Send(ReadOnlyMemory<byte> message, WebSocketMessageType type, CancellationToken cancel)
    {
        await _sending.WaitAsync(cancel);
        try
        {
            await _socket.SendAsync(message, type, endOfMessage: true, cancel);
        }
        finally
        {
            _sending.Release();
        }
    }

    /// <summary>What a listener says.</summary>
    /// <param name="Played">How many frames were played so far.</param>
    /// <param name="Ear">What is to be heard from now on.</param>
    /// <param name="Round">First and last bar to play round and round; none for straight on.</param>
    /// <param name="Hold">A control that is moved.</param>
    /// <param name="LetGo">True to let all controls go.</param>
    private sealed record Wish(long? Played, string? Ear, int[]? Round, Held? Hold, bool LetGo);

    /// <summary>A control that is moved by hand.</summary>
    /// <param name="Of">The element.</param>
    /// <param name="Control">The control.</param>
    /// <param name="Value">Where it stands.</param>
    private sealed record Held(string? Of, string? Control, double Value);
}

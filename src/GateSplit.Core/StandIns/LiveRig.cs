using System.Collections.Immutable;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.StandIns;

/// <summary>
/// A session as it is heard while it plays, block by block, and the split may change meanwhile: then a second rig is set
/// up at the same place of the music, and the sound passes over to it. Controls can be moved by hand.
/// </summary>
public sealed class LiveRig
{
    /// <summary>Frames of a block, 21 ms at 48 kHz.</summary>
    public const int BlockFrames = 1024;

    /// <summary>A rig that is set up in the middle plays this long unheard, so that its effects are filled.</summary>
    private const double WarmSeconds = 2;

    private readonly Song _song;
    private readonly int _pass;
    private readonly int _startBar;
    private readonly Dictionary<(ElementRef Element, RideControl Control), double> _held = [];
    private readonly float[][] _fading = [new float[BlockFrames], new float[BlockFrames]];
    private readonly List<Click> _clicks = [];
    private readonly SampleRate _sampleRate;
    private readonly Frames _startFrame;
    private Running _running;
    private Split _split;
    private Ear _ear;

    /// <summary>Sets it up.</summary>
    /// <param name="split">The split.</param>
    /// <param name="song">The notes the sources play.</param>
    /// <param name="ear">What is listened to.</param>
    /// <param name="startBar">The bar in which the sources start, from 1.</param>
    /// <param name="pass">The pass that is heard, from 1.</param>
    /// <param name="click">When the click is heard.</param>
    public LiveRig(Split split, Song song, Ear ear, int startBar = 1, int pass = 1, ClickMode click = ClickMode.Off)
    {
        (_song, _pass, _startBar, _split, _ear) = (song, pass, Math.Clamp(startBar, 1, split.Pass.LengthBars), split, ear);
        _sampleRate = split.Pass.SampleRate;
        _startFrame = song.Tempos.ToFrames(song.Metres.BarStart(_startBar - 1), _sampleRate);
        Position = _startFrame;
        if (click != ClickMode.Off)
        {
            var (counted, frames) = Click.CountIn(song, _startBar, split.Pass.CountInBars, _sampleRate);
            _clicks.Add(counted);
            Position -= frames;
        }

        if (click == ClickMode.Throughout)
        {
            _clicks.Add(Click.Throughout(song, _startBar, split.Pass.LengthBars, _sampleRate));
        }

        _running = new Running(Prepare(split, ear, _startFrame));
        EndFrame = EndOf(split);
    }

    /// <summary>The frame that is rendered next; the first bar begins at 0, and a count-in lies before the bar in which the sources start.</summary>
    public Frames Position { get; private set; }

    /// <summary>The frame of the music that is rendered next: in a count-in, where it will begin.</summary>
    public Frames SoundingFrame => Frames.Max(Position, _startFrame);

    /// <summary>Where the pass ends, with its tail.</summary>
    public Frames EndFrame { get; private set; }

    /// <summary>Bars, from 1, that are played round and round; null for straight on.</summary>
    public (int From, int To)? Round { get; set; }

    /// <summary>True once the pass is over.</summary>
    public bool HasEnded => Position >= EndFrame;

    /// <summary>Sets up what is to be heard from now on. It may take a while and may run beside <see cref="Render"/>.</summary>
    /// <param name="split">The split as it is now; its sample rate is the one with which this began.</param>
    /// <param name="ear">What is listened to now.</param>
    /// <param name="frame">The frame from which it is to be heard, or one before it.</param>
    public Prepared Prepare(Split split, Ear ear, Frames frame)
    {
        var held = split with
        {
            Pass = split.Pass with { SampleRate = _sampleRate, StartBar = _startBar },
            Rides =
            [
                .. split.Rides,
                .. Held().Select(h => h.Key).Where(h => !split.Rides.Any(r => r.Element == h.Element && r.Control == h.Control))
                    .Select(h => new Ride(h.Element, h.Control, [new RidePoint(1, Ride.Rest(h.Control))])),
            ],
        };
        return new Prepared(split, ear, new Playing(held.Passes == 1 ? held : held.InPass(_pass), _song, ear, frame, _sampleRate));
    }

    /// <summary>Passes over to what was set up.</summary>
    public void Take(Prepared prepared)
    {
        (_split, _ear) = (prepared.Split, prepared.Ear);
        EndFrame = EndOf(_split);
        _running = new Running(prepared) { Before = _running.Now };
        prepared.Playing.CatchUp(SoundingFrame);
        foreach (var ((element, control), value) in Held())
        {
            _running.Now.Playing.Curve(element, control)?.Move(SoundingFrame, value);
        }
    }

    /// <summary>Moves a control by hand, as long as it is heard at once; it stays there until <see cref="LetGo"/>.</summary>
    /// <returns>False if this control was not held yet: then <see cref="Prepare"/> and <see cref="Take"/> come first.</returns>
    public bool Move(ElementRef element, RideControl control, double value)
    {
        var (low, high) = Ride.Range(control);
        lock (_held)
        {
            _held[(element, control)] = Math.Clamp(value, low, high);
        }

        if (_running.Now.Playing.Curve(element, control) is not { } curve)
        {
            return false;
        }

        curve.Move(SoundingFrame, Math.Clamp(value, low, high));
        return true;
    }

    /// <summary>Lets all controls go; the rides of the split hold again once <see cref="Take"/> was called.</summary>
    public void LetGo()
    {
        lock (_held)
        {
            _held.Clear();
        }
    }

    /// <summary>Renders the next block.</summary>
    /// <param name="left">Receives the left side.</param>
    /// <param name="right">Receives the right side.</param>
    /// <returns>The first frame, and how many frames were rendered: fewer than <see cref="BlockFrames"/> where something begins or ends.</returns>
    public (Frames Start, int Frames) Render(Span<float> left, Span<float> right)
    {
        if (Round is { } round && Position >= FrameOfBar(round.To))
        {
            Position = Frames.Max(_startFrame, FrameOfBar(round.From - 1));
            Take(Prepare(_split, _ear, Position));
        }

        var start = Position;
        var next = start < _startFrame ? _startFrame : Round is { } r ? FrameOfBar(r.To) : EndFrame;
        var frames = (int)Math.Clamp((next - start).Count, 1, BlockFrames);
        left = left[..frames];
        right = right[..frames];
        left.Clear();
        right.Clear();
        if (start >= _startFrame)
        {
            _running.Now.Playing.AddTo(left, right);
            if (_running.Before is { } before)
            {
                PassOver(before.Playing, left, right);
                _running = new Running(_running.Now);
            }
        }

        foreach (var click in _clicks)
        {
            click.AddTo(start, left, right);
        }

        Position = start + frames;
        return (start, frames);
    }

    /// <summary>The bar at a frame: 3.5 is the middle of the third.</summary>
    public double BarAt(Frames frame)
    {
        var bar = 0;
        while (bar < _split.Pass.LengthBars && FrameOfBar(bar + 1) <= frame)
        {
            bar++;
        }

        return bar + 1 + (double)(frame - FrameOfBar(bar)).Count / (FrameOfBar(bar + 1) - FrameOfBar(bar)).Count;
    }

    private void PassOver(Playing before, Span<float> left, Span<float> right)
    {
        var fromLeft = _fading[0].AsSpan(0, left.Length);
        var fromRight = _fading[1].AsSpan(0, left.Length);
        fromLeft.Clear();
        fromRight.Clear();
        before.AddTo(fromLeft, fromRight);
        for (var i = 0; i < left.Length; i++)
        {
            var share = (i + 1f) / left.Length;
            left[i] = left[i] * share + fromLeft[i] * (1 - share);
            right[i] = right[i] * share + fromRight[i] * (1 - share);
        }
    }

    private Frames FrameOfBar(long bar) => _song.Tempos.ToFrames(_song.Metres.BarStart(bar), _sampleRate);

    private Frames EndOf(Split split)
    {
        var times = PassTimes.Of(SplitView.Of(split, _song), _song);
        return new(times.Frames.Count * _sampleRate.Hz / times.SampleRate.Hz);
    }

    private Dictionary<(ElementRef Element, RideControl Control), double> Held()
    {
        lock (_held)
        {
            return new(_held);
        }
    }

    /// <summary>A rig that waits to be heard.</summary>
    public sealed class Prepared
    {
        internal Prepared(Split split, Ear ear, Playing playing) => (Split, Ear, Playing) = (split, ear, playing);

        internal Split Split { get; }

        internal Ear Ear { get; }

        internal Playing Playing { get; }
    }

    /// <summary>What is heard now and what was heard until now.</summary>
    private sealed record Running(Prepared Now)
    {
        public Prepared? Before { get; init; }
    }

    /// <summary>One setting of the rig, playing.</summary>
    internal sealed class Playing
    {
        private readonly Split _split;
        private readonly SoundingRig _rig;
        private readonly ImmutableArray<(Track Track, Converter[] Converters, Gain2x2 Gain)> _tracks;
        private readonly (UnitId UnitId, int First, int Last)? _main;
        private readonly float[][] _unheard = [new float[BlockFrames], new float[BlockFrames]];
        private Frames _position;
        private long _number;

        public Playing(Split split, Song song, Ear ear, Frames frame, SampleRate sampleRate)
        {
            _split = split;
            var heard = ear.UnitId is not null ? []
                : ear.TrackIds.IsEmpty ? split.Tracks.Where(t => t.Heard && split.OutputOf(t) is null)
                : split.Tracks.Where(t => ear.TrackIds.Contains(t.Id));
            _tracks = [.. heard.Select(t => (t, Converter.Of(t, split, BlockFrames), GainOf(t)))];
            _main = ear.UnitId is { } id && split.Unit(id) is { } unit ? (unit.Id, unit.Chart.MainPort.FirstChannel, unit.Chart.MainPort.LastChannel) : null;
            _rig = new SoundingRig(split, song, _tracks.Select(t => t.Track.Id), ear.UnitId, BlockFrames);
            var started = song.Tempos.ToFrames(song.Metres.BarStart(split.Pass.StartBar - 1), sampleRate);
            _position = Frames.Max(Frames.Min(started, _rig.FirstFrame), frame - (int)(WarmSeconds * sampleRate));
            _rig.Voices.SkipTo(_position);
            CatchUp(frame);
        }

        /// <summary>Plays unheard up to a frame.</summary>
        public void CatchUp(Frames frame)
        {
            while (_position < frame)
            {
                var frames = (int)Frames.Min(BlockFrames, frame - _position).Count;
                AddTo(_unheard[0].AsSpan(0, frames), _unheard[1].AsSpan(0, frames));
            }
        }

        /// <summary>The ride of a control; null if there is none.</summary>
        public RideCurve? Curve(ElementRef element, RideControl control) => _rig.Sources.GetValueOrDefault(element.UnitId)?.Curve(element.ElementId, control);

        /// <summary>Adds the next block.</summary>
        public void AddTo(Span<float> left, Span<float> right)
        {
            var block = new Block(_number++, _position, left.Length);
            _position += left.Length;
            _rig.Render(block);
            if (_main is { } main)
            {
                Mixing.AddScaled(left, _rig.Sources[main.UnitId].Gate(main.First, block), 1);
                Mixing.AddScaled(right, _rig.Sources[main.UnitId].Gate(main.Last, block), 1);
            }

            foreach (var (track, converters, gain) in _tracks)
            {
                var fromLeft = _rig.Desk.Samples(track, 0, block);
                var fromRight = track.Width == Charts.Width.Mono ? [] : _rig.Desk.Samples(track, 1, block);
                if (converters.Length > 0)
                {
                    converters[0].Process(fromLeft);
                    converters[^1].Process(fromRight);
                }

                Mixing.AddScaled(left, fromLeft, (float)gain.LL);
                Mixing.AddScaled(right, fromLeft, (float)gain.RL);
                if (!fromRight.IsEmpty)
                {
                    Mixing.AddScaled(left, fromRight, (float)gain.LR);
                    Mixing.AddScaled(right, fromRight, (float)gain.RR);
                }
            }
        }

        private Gain2x2 GainOf(Track track)
        {
            var level = _split.MixLevel(track).Ratio;
            return level * (track.Width == Charts.Width.Mono ? Gain2x2.Panned(track.Pan) : Gain2x2.Balanced(track.Pan));
        }
    }
}

using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// A simulated source: plays the notes of the song, mixes its elements as its unit is set, and puts them on its ports.
/// It obeys the unit, right or wrong. Its samples depend on nothing but the unit and the song: not on the size of the
/// blocks and not on the number of threads.
/// </summary>
public sealed class UnitStandIn
{
    private const double MetresPerSecond = 343;

    /// <summary>Elements are mixed in stretches so short that all of them stay in the cache.</summary>
    private const int StretchFrames = 512;

    private readonly Unit _unit;
    private readonly VoiceStandIn[] _voices;
    private readonly Element[] _elements;
    private readonly Element[] _returns;
    private readonly (Element Element, Gain2x2 Gain)[] _sends;
    private readonly IReturnEffect[] _effects;
    private readonly Master? _master;
    private readonly (ChartPort Port, Element Element, PortFeed Feed)[] _feeds;
    private readonly float[][][] _gate; // a channel that nothing reaches holds zeros for good
    private readonly bool[] _begun; // for each channel of the gate whether anything has arrived in this stretch
    private readonly float[][] _sendBus;
    private readonly Element? _alone;
    private readonly bool _mainHeard;
    private readonly Dictionary<(ElementId, RideControl), RideCurve> _curves;

    /// <summary>Sets a source up.</summary>
    /// <param name="unit">The unit it obeys.</param>
    /// <param name="signal">The signal of the split it is in.</param>
    /// <param name="song">The notes it plays.</param>
    /// <param name="pass">How it is recorded.</param>
    /// <param name="mostFrames">The longest block that will be asked for.</param>
    /// <param name="solo">What is heard of it.</param>
    /// <param name="ports">The ports at which anybody listens, the only ones that are worked out; null for all.</param>
    public UnitStandIn(Unit unit, SplitSignal signal, Song song, PassSettings pass, int mostFrames, Solo? solo = null, IReadOnlySet<int>? ports = null)
    {
        var sampleRate = pass.SampleRate;
        _unit = unit;
        var history = unit.Chart.Elements.SelectMany(e => e.Hears).Select(h => DelaySamples(h, sampleRate)).DefaultIfEmpty().Max();
        var curves = signal.Split.Rides.Where(r => r.Element.UnitId == unit.Id).ToDictionary(r => (r.Element.ElementId, r.Control), r => new RideCurve(r, song, sampleRate));
        _curves = curves;
        var notes = Performance.Of(unit, song, signal.Split with { Pass = pass });
        FirstFrame = notes.Values.Where(n => !n.IsEmpty).Select(n => n[0].Start).Append(0).Min();
        _voices = [.. unit.Chart.Voices.Select(v => new VoiceStandIn(v, ShapeOf(unit, v.Id, curves), notes[v.Id], sampleRate, history, mostFrames))];
        var dry = signal.PortFeeds.Where(f => f.UnitId == unit.Id && f.Dry).Select(f => f.Element.ElementId).ToHashSet();
        bool IsDry(ChartElement element) => dry.Contains(element.Id);
        var elements = unit.Chart.Elements.Select(e => new Element(e, Hearings(e, sampleRate), Tones(e, sampleRate), Inserts(e, sampleRate), Ridden.Of(e, curves, sampleRate), IsDry(e) ? Ridden.Of(e, curves, sampleRate) : null, IsDry(e))).ToList();
        _elements = [.. elements.Where(e => e.Chart.Kind != ElementKind.Return)];
        _returns = [.. elements.Where(e => e.Chart.Kind == ElementKind.Return)];
        _effects = [.. _returns.Select(r => EffectOf(r.Chart, sampleRate))];
        _master = unit.Chart.Master is { } master ? new Master(master, sampleRate) : null;
        _alone = solo is { ElementId: { } only } ? elements.First(e => e.Chart.Id == only) : null;
        _feeds =
        [
            .. signal.PortFeeds.Where(f => f.UnitId == unit.Id)
                .Select(f => (Port: unit.Chart.Port(f.Port)!, Element: elements.First(e => e.Chart.Id == f.Element.ElementId), Feed: f))
                .Where(f => f.Element.CanSound && (solo is null || solo.Hears(f.Port, f.Element.Chart)) && ports?.Contains(f.Port.Number) != false),
        ];

        // What nobody listens to is not worked out.
        bool IsFed(Element e) => e == _alone || _feeds.Any(f => f.Element == e);
        var feedsReturns = (_alone is null || _alone.Chart.Kind == ElementKind.Return) && _returns.Any(IsFed);
        _sends = feedsReturns ? [.. _elements.Where(e => e.CanSound).Select(e => (e, SplitSignal.SendGain(unit, e.Chart))).Where(s => !s.Item2.IsZero)] : [];
        _elements = [.. _elements.Where(e => IsFed(e) || _sends.Any(s => s.Element == e))];
        HeardVoices = [.. _voices.Intersect(_elements.SelectMany(e => e.Voices))];
        _mainHeard = ports?.Contains(unit.Chart.MainPort.Number) != false;
        _gate = [.. Enumerable.Range(0, unit.Chart.Channels).Select(_ => new[] { new float[mostFrames], new float[mostFrames] })];
        _begun = new bool[_gate.Length];
        _sendBus = [new float[StretchFrames], new float[StretchFrames]];
    }

    private static IReturnEffect EffectOf(ChartElement element, SampleRate sampleRate) => element.EchoSeconds is { } echo
        ? new Echo(echo, element.ReturnSeconds, sampleRate)
        : new Reverb(element.ReturnSeconds, sampleRate);

    /// <summary>The frame at which it is first heard, 0 or before it.</summary>
    public Frames FirstFrame { get; }

    /// <summary>The voices of which anything is heard; whoever renders the gate renders them before.</summary>
    internal ImmutableArray<VoiceStandIn> HeardVoices { get; }

    /// <summary>The ride of an element's control; null if nobody rides it.</summary>
    internal RideCurve? Curve(ElementId elementId, RideControl control) => _curves.GetValueOrDefault((elementId, control));

    /// <summary>How strong the soloed element is before its fader, over all that was rendered.</summary>
    public PairPower Alone { get; private set; }

    /// <summary>What stands at a channel of the gate in a block.</summary>
    /// <param name="channel">1-based.</param>
    /// <param name="block">The block whose gate was rendered last, or the one before it.</param>
    public ReadOnlySpan<float> Gate(int channel, Block block) => GateMemory(channel, block).Span;

    /// <summary>The same, to be kept until the block is read.</summary>
    internal ReadOnlyMemory<float> GateMemory(int channel, Block block) => _gate[channel - 1][block.Side].AsMemory(0, block.Frames);

    /// <summary>
    /// After its voices: what each element hears, the returns, and what stands at the gate. The voices may already be at
    /// work on the block after it.
    /// </summary>
    public void RenderGate(Block block)
    {
        for (var from = 0; from < block.Frames; from += StretchFrames)
        {
            var frames = Math.Min(StretchFrames, block.Frames - from);
            foreach (var element in _elements)
            {
                element.Listen(block, from, frames);
            }

            RenderReturns(block.Start + from, frames);
            if (_alone is not null)
            {
                Alone = Alone.And(_alone.Left(frames), _alone.Chart.Width == Width.Stereo ? _alone.Right(frames) : []);
            }

            Array.Clear(_begun);
            foreach (var (port, element, feed) in _feeds)
            {
                Feed(port, element, feed, block, from, frames);
            }
        }

        if (_mainHeard)
        {
            var main = _unit.Chart.MainPort;
            _master?.Process(
                _gate[main.FirstChannel - 1][block.Side].AsSpan(0, block.Frames), _gate[main.LastChannel - 1][block.Side].AsSpan(0, block.Frames));
        }
    }

    private static int DelaySamples(Hearing hearing, SampleRate sampleRate) =>
        (int)Math.Round(hearing.Metres / MetresPerSecond * sampleRate);

    private ImmutableArray<Heard> Hearings(ChartElement element, SampleRate sampleRate)
    {
        var bleed = element.Kind == ElementKind.Microphone ? _unit.Element(element.Id).BleedDb : Decibels.Unity;
        return
        [
            .. element.Hears
                .Select(h => new Heard(
                    _voices.First(v => v.Id == h.VoiceId),
                    DelaySamples(h, sampleRate),
                    (element.Width == Width.Mono ? new Gain2x2(1, 0, 0, 0) : Gain2x2.Panned(h.Pan)) is var shape
                        ? (h.GainDb + (h.Bleed ? bleed : Decibels.Unity)).Ratio * shape
                        : default))
                .Where(h => !h.Voice.IsIdle),
        ];
    }

    /// <summary>The tone of a microphone, one for each channel; none if it has none.</summary>
    private static MicTone[] Tones(ChartElement element, SampleRate sampleRate) =>
        element.Mic is { } place ? [.. Enumerable.Range(0, (int)element.Width).Select(_ => new MicTone(place, sampleRate))] : [];

    /// <summary>The element's own effect, one for each channel; none if it has none or it is switched off.</summary>
    private Crusher[] Inserts(ChartElement element, SampleRate sampleRate) =>
        element.Insert is { } patch && !_unit.Element(element.Id).InsertOff
            ? [.. Enumerable.Range(0, (int)element.Width).Select(_ => new Crusher(patch, sampleRate))]
            : [];

    private void RenderReturns(Frames start, int frames)
    {
        for (var i = 0; i < _returns.Length && _sends.Length > 0; i++)
        {
            var left = _sendBus[0].AsSpan(0, frames);
            var right = _sendBus[1].AsSpan(0, frames);
            bool anyLeft = false, anyRight = false;
            foreach (var (element, gain) in _sends)
            {
                Mixing.Sum(left, element.Sent(0, frames), (float)gain.LL, ref anyLeft);
                Mixing.Sum(right, element.Sent(0, frames), (float)gain.RL, ref anyRight);
                if (element.Chart.Width == Width.Stereo)
                {
                    Mixing.Sum(left, element.Sent(1, frames), (float)gain.LR, ref anyLeft);
                    Mixing.Sum(right, element.Sent(1, frames), (float)gain.RR, ref anyRight);
                }
            }

            left[..(anyLeft ? 0 : frames)].Clear();
            right[..(anyRight ? 0 : frames)].Clear();
            _effects[i].Process(left, right, _returns[i].Left(frames), _returns[i].Right(frames));
            _returns[i].Move(start, frames);
        }
    }

    /// <summary>Adds what an element puts on a port in a stretch.</summary>
    private void Feed(ChartPort port, Element element, PortFeed feed, Block block, int from, int frames)
    {
        var gain = feed.Gain;
        var afterFader = port.Tap != Tap.BeforeFader && !feed.Straight;
        ReadOnlySpan<float> Samples(int side) => feed.Dry ? element.Dry(side, frames) : element.At(side, frames, afterFader);
        void Add(int channel, double fromLeft, double fromRight)
        {
            var into = _gate[channel - 1][block.Side].AsSpan(from, frames);
            Mixing.Sum(into, Samples(0), (float)fromLeft, ref _begun[channel - 1]);
            if (element.Chart.Width == Width.Stereo)
            {
                Mixing.Sum(into, Samples(1), (float)fromRight, ref _begun[channel - 1]);
            }
        }

        Add(port.FirstChannel, gain.LL, gain.LR);
        if (port.Width == Width.Stereo)
        {
            Add(port.LastChannel, gain.RL, gain.RR);
        }
    }

    /// <summary>How a voice is set at a frame: as its unit has it, moved by the rides of the element whose own voice it is.</summary>
    private static Func<Frames, UnitVoice> ShapeOf(Unit unit, VoiceId voiceId, Dictionary<(ElementId, RideControl), RideCurve> curves)
    {
        var shape = unit.Voice(voiceId);
        RideCurve? Moving(RideControl control) => unit.Chart.Elements
            .Where(e => e.Hears.Any(h => !h.Bleed && h.VoiceId == voiceId))
            .Select(e => curves.GetValueOrDefault((e.Id, control)))
            .FirstOrDefault(c => c is not null);
        var (tune, decay) = (Moving(RideControl.Tune), Moving(RideControl.Decay));
        return tune is null && decay is null
            ? _ => shape
            : frame => shape with { TuneSemitones = shape.TuneSemitones + (tune?.At(frame) ?? 0), DecayScale = shape.DecayScale * (decay?.At(frame) ?? 1) };
    }

    private sealed record Heard(VoiceStandIn Voice, int DelaySamples, Gain2x2 Gain);

    /// <summary>One element with the samples of a stretch, before its fader.</summary>
    private sealed class Element(ChartElement chart, ImmutableArray<Heard> heard, MicTone[] tones, Crusher[] inserts, Ridden? ridden, Ridden? dryRidden, bool keepsDry)
    {
        private readonly float[] _left = new float[StretchFrames];
        private readonly float[] _right = new float[StretchFrames];
        private readonly float[][] _dry = keepsDry ? [new float[StretchFrames], new float[StretchFrames]] : [];
        private readonly MixedPart[] _parts = new MixedPart[heard.Length];

        public ChartElement Chart => chart;

        public IEnumerable<VoiceStandIn> Voices => heard.Select(h => h.Voice);

        public bool CanSound => chart.Kind == ElementKind.Return || !heard.IsEmpty;

        public Span<float> Left(int frames) => _left.AsSpan(0, frames);

        public Span<float> Right(int frames) => _right.AsSpan(0, frames);

        public void Listen(Block block, int from, int frames)
        {
            var count = 0;
            foreach (var (voice, delay, gain) in heard)
            {
                if (!voice.IsSilent(block, from, frames, delay))
                {
                    _parts[count++] = voice.Part(block, from, delay, gain);
                }
            }

            Mixing.Mix(_parts.AsSpan(0, count), Left(frames), chart.Width == Width.Mono ? [] : Right(frames));
            for (var side = 0; side < tones.Length; side++)
            {
                tones[side].Process(side == 0 ? Left(frames) : Right(frames));
            }

            if (keepsDry)
            {
                Left(frames).CopyTo(_dry[0]);
                Right(frames).CopyTo(_dry[1]);
                dryRidden?.Process(block.Start + from, _dry[0].AsSpan(0, frames), chart.Width == Width.Stereo ? _dry[1].AsSpan(0, frames) : []);
            }

            for (var side = 0; side < inserts.Length; side++)
            {
                inserts[side].Process(side == 0 ? Left(frames) : Right(frames));
            }

            Move(block.Start + from, frames);
        }

        /// <summary>Lets the rides move it.</summary>
        public void Move(Frames start, int frames) => ridden?.Process(start, Left(frames), chart.Width == Width.Stereo ? Right(frames) : []);

        /// <summary>One side before or after the fader.</summary>
        public ReadOnlySpan<float> At(int side, int frames, bool afterFader) =>
            afterFader && ridden is { MovesLevel: true } ? ridden.AfterFader(side, frames) : side == 0 ? Left(frames) : Right(frames);

        /// <summary>One side before the element's own effect.</summary>
        public ReadOnlySpan<float> Dry(int side, int frames) => _dry[side].AsSpan(0, frames);

        /// <summary>One side as it goes to the shared effect.</summary>
        public ReadOnlySpan<float> Sent(int side, int frames) =>
            ridden is { MovesSend: true } ? ridden.Sent(side, frames) : At(side, frames, afterFader: true);
    }
}

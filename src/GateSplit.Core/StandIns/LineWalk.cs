using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.StandIns;

/// <summary>
/// Walks the lines: plays each element alone for a moment, as the simulated rig really is, and measures where it
/// arrives, beside what the split says. The prediction is the split's gain applied to what the element gives before its
/// fader; the measurement is taken from the tracks.
/// </summary>
public sealed class LineWalk
{
    private const int BlockFrames = 2048;
    private const double Seconds = 2;
    private const double HoldBeats = 1.2;
    private const int Velocity = 127;
    private const int MiddleKey = 48;
    private const int MetersASecond = 20;

    private readonly SplitView _view;

    /// <summary>Prepares a walk.</summary>
    /// <param name="view">The split.</param>
    public LineWalk(SplitView view) => _view = view.Split.Rides.IsEmpty && view.Split.Steps.IsEmpty ? view : new SplitView(view.Split with { Rides = [], Steps = [] }, view.Sounding);

    /// <summary>True if the main mixes are muted on the sources: what still arrives is separate.</summary>
    public bool MainMuted { get; init; }

    /// <summary>Walks every element that sounds, in each pass in which it plays.</summary>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops the walk.</param>
    public ImmutableArray<WalkedLine> All(IProgress<double>? progress = null, CancellationToken cancel = default)
    {
        var elements = _view.SoundingElements.Where(e => e.Chart.Kind != ElementKind.NoteOnly).ToList();
        var lines = new List<WalkedLine>();
        for (var i = 0; i < elements.Count; i++)
        {
            cancel.ThrowIfCancellationRequested();
            lines.AddRange(One(elements[i].Ref));
            progress?.Report((i + 1.0) / elements.Count);
        }

        return [.. lines];
    }

    /// <summary>Walks one element, in each pass in which it plays and anything is recorded.</summary>
    public IEnumerable<WalkedLine> One(ElementRef element) =>
        PassesOf(element).Select(pass => Walk(element, pass, null));

    /// <summary>What arrives of an element on the tracks together, as a stereo recording of its first pass.</summary>
    /// <returns>Left and right, at the split's sample rate.</returns>
    public (float[] Left, float[] Right) Listen(ElementRef element)
    {
        var frames = (int)(Seconds * _view.Split.Pass.SampleRate);
        var heard = (Left: new float[frames], Right: new float[frames]);
        Walk(element, PassesOf(element).First(), heard);
        return heard;
    }

    private IEnumerable<int> PassesOf(ElementRef element) =>
        Enumerable.Range(1, _view.Split.Passes).Where(p => _view.PlaysIn(element, p) && (p == 1 || _view.SettingsOf(element).Pass == p || _view.Signal.Reaching(element).Any(c => _view.Split.Track(c.TrackId)!.Pass == p)));

    private WalkedLine Walk(ElementRef element, int pass, (float[] Left, float[] Right)? heard)
    {
        var split = _view.Split.Passes == 1 ? _view.Split : _view.Split.InPass(pass);
        var unit = split.Unit(element.UnitId)!;
        var said = SplitSignal.Of(split);
        var settings = split.Pass with { Looped = false };
        var source = new UnitStandIn(unit, SplitSignal.InRig(split), Moment(unit, element), settings, BlockFrames, new Solo(element.ElementId, MainMuted));
        var voices = new Voices([source], settings.SampleRate);
        var desk = new Desk(split, SplitSignal.InRig(split), new() { [unit.Id] = source }, BlockFrames);
        var ports = unit.Chart.Ports.ToDictionary(p => p.Number, _ => new Meter(settings.SampleRate.Hz / MetersASecond));
        var tracks = split.Tracks.ToDictionary(t => t.Id, _ => new Meter(settings.SampleRate.Hz / MetersASecond));
        var frames = (int)(Seconds * settings.SampleRate);
        for (var (number, at) = (0, 0); at < frames; number++, at += BlockFrames)
        {
            var block = new Block(number, at, Math.Min(BlockFrames, frames - at));
            voices.Render(block);
            source.RenderGate(block);
            desk.Mix(block);
            foreach (var port in unit.Chart.Ports)
            {
                ports[port.Number].Add(source.Gate(port.FirstChannel, block), port.Width == Width.Mono ? [] : source.Gate(port.LastChannel, block));
            }

            foreach (var track in split.Tracks)
            {
                var left = desk.Samples(track, 0, block);
                var right = track.Width == Width.Mono ? [] : desk.Samples(track, 1, block);
                tracks[track.Id].Add(left, right);
                if (heard is { } pair && (track.Armed || track.Live))
                {
                    Mixing.AddScaled(pair.Left.AsSpan(at, block.Frames), left, 1);
                    Mixing.AddScaled(pair.Right.AsSpan(at, block.Frames), right.IsEmpty ? left : right, 1);
                }
            }
        }

        var arriving = said.Reaching(element).ToDictionary(c => c.TrackId);
        return new WalkedLine(
            element,
            pass,
            source.Alone.Rms,
            [.. unit.Chart.Ports.Where(p => !ports[p.Number].IsSilent).Select(p => new WalkedPort(p.Number, ports[p.Number].Peak, ports[p.Number].Peaks))],
            [
                .. split.Tracks
                    .Select(t => new WalkedTrack(
                        t.Id,
                        (arriving.GetValueOrDefault(t.Id) is { } meant ? source.Alone.After(meant.Gain) : default).Rms,
                        tracks[t.Id].Power.Rms,
                        tracks[t.Id].Peak,
                        tracks[t.Id].Peaks)
                    {
                        Meant = arriving.GetValueOrDefault(t.Id) is { Gain.IsZero: false },
                        ThroughMaster = said.StraightOf(element).Any(f => f.Dry && said.Into(t.Id).Any(i => i.UnitId == f.UnitId && i.Port == f.Port)) || unit.Chart.Master is not null && said.Into(t.Id).Any(f => f.UnitId == unit.Id && unit.Chart.Port(f.Port)!.IsMain),
                    })
                    .Where(t => t.Arrived || t.Meant),
            ]);
    }

    /// <summary>One note for each voice that the element hears of its own; for a return, for everything that sends to it.</summary>
    private static Song Moment(Unit unit, ElementRef element)
    {
        var chart = unit.Chart.Element(element.ElementId)!;
        var played = chart.Kind == ElementKind.Return ? unit.Chart.Elements.Where(e => !SplitSignal.SendGain(unit, e).IsZero) : [chart];
        var own = played.SelectMany(e => e.Hears).Where(h => !h.Bleed).Select(h => h.VoiceId).ToHashSet();
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        foreach (var voice in unit.Chart.Voices.Where(v => own.Contains(v.Id)))
        {
            writer.Hold(voice.Channel, voice.Keys.IsEmpty ? MiddleKey : voice.Keys[0], Velocity, 0, HoldBeats);
        }

        return Song.Of(writer.ToFile("Line check", 2));
    }

    /// <summary>Measures a pair of channels: power, the highest sample, and the highest of each short stretch.</summary>
    private sealed class Meter(int stretchFrames)
    {
        private readonly ImmutableArray<float>.Builder _peaks = ImmutableArray.CreateBuilder<float>();
        private float _peak;
        private int _left;

        public PairPower Power { get; private set; }

        public ImmutableArray<float> Peaks => _peaks.ToImmutable();

        public Decibels Peak => Decibels.FromRatio(_peaks.Append(_peak).Max());

        public bool IsSilent => Power.Rms <= WalkedTrack.Silent;

        public void Add(ReadOnlySpan<float> left, ReadOnlySpan<float> right)
        {
            Power = Power.And(left, right);
            for (var i = 0; i < left.Length; i++)
            {
                _peak = Math.Max(_peak, Math.Max(Math.Abs(left[i]), right.IsEmpty ? 0 : Math.Abs(right[i])));
                if (++_left == stretchFrames)
                {
                    _peaks.Add(_peak);
                    (_peak, _left) = (0, 0);
                }
            }
        }
    }
}

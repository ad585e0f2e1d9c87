using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>
/// From ticks to samples, by integers only: samples = ticks * microsecondsPerQuarter * sampleRate /
/// (ticksPerQuarter * 1,000,000), summed tempo segment by tempo segment and rounded once at the end
/// (Standard MIDI Files 1.0).
/// </summary>
public sealed class TempoMap
{
    private readonly ImmutableArray<Segment> _segments;
    private readonly Int128 _denominator;

    /// <summary>Units of a tick at a hundredth of a quarter a minute: 60 seconds, in hundredths.</summary>
    private const int HundredthsOfMinute = 6000;

    /// <summary>Builds the map of a song with one tempo that is kept exactly: samples = ticks * 6000 * sampleRate / (ticksPerQuarter * hundredths).</summary>
    /// <param name="timeBase">What a tick is, metrical.</param>
    /// <param name="hundredths">The tempo, in hundredths of a quarter a minute.</param>
    /// <param name="rounded">What a file can keep of it.</param>
    internal TempoMap(TimeBase timeBase, int hundredths, Tempo rounded)
    {
        _denominator = (Int128)timeBase.TicksPerQuarter * hundredths;
        _segments = [new Segment(0, HundredthsOfMinute, 0)];
        Tempos = [(0, rounded)];
        Typed = hundredths / 100.0;
    }

    /// <summary>Builds the map.</summary>
    /// <param name="timeBase">What a tick is; for SMPTE time the tempos are ignored.</param>
    /// <param name="changes">Tempos from their ticks on; before the first, 120 quarters a minute. Of several at one tick the last holds.</param>
    public TempoMap(TimeBase timeBase, IEnumerable<(Ticks Tick, Tempo Tempo)> changes)
    {
        if (timeBase.IsSmpte)
        {
            var dropFrame = timeBase.SmpteFormat == 29;
            _denominator = dropFrame ? 30_000L * timeBase.TicksPerFrame : (long)timeBase.SmpteFormat * timeBase.TicksPerFrame;
            _segments = [new Segment(0, dropFrame ? 1001 : 1, 0)];
            Tempos = [];
            return;
        }

        _denominator = timeBase.TicksPerQuarter * 1_000_000L;
        var byTick = new SortedDictionary<Ticks, Tempo> { [0] = Tempo.Default };
        foreach (var (tick, tempo) in changes)
        {
            byTick[tick] = tempo;
        }

        Tempos = [.. byTick.Select(p => (p.Key, p.Value))];
        var segments = ImmutableArray.CreateBuilder<Segment>();
        foreach (var (tick, tempo) in byTick)
        {
            var before = segments.Count == 0 ? 0 : segments[^1].Units + (Int128)(tick - segments[^1].Tick).Count * segments[^1].UnitsPerTick;
            segments.Add(new Segment(tick, tempo.MicrosecondsPerQuarter, before));
        }

        _segments = segments.ToImmutable();
    }

    /// <summary>The tempos by the tick from which they hold, first at 0; empty for SMPTE time.</summary>
    public ImmutableArray<(Ticks Tick, Tempo Tempo)> Tempos { get; }

    /// <summary>The one tempo of the song, if it is kept exactly; null if tempos are taken to the microsecond.</summary>
    public double? Typed { get; }

    /// <summary>Quarters a minute at the start; for SMPTE time 120.</summary>
    public double StartTempo => Typed is { } typed ? typed : Tempos.IsEmpty ? Tempo.Default.QuartersPerMinute : Tempos[0].Tempo.QuartersPerMinute;

    /// <summary>The frame at a tick, rounded half up, counted from 0.</summary>
    /// <param name="tick">0 or more.</param>
    /// <param name="sampleRate">Frames a second.</param>
    public Frames ToFrames(Ticks tick, SampleRate sampleRate)
    {
        var segment = _segments[0];
        foreach (var next in _segments)
        {
            if (next.Tick > tick)
            {
                break;
            }

            segment = next;
        }

        var units = segment.Units + (Int128)(tick - segment.Tick).Count * segment.UnitsPerTick;
        return new((long)((units * sampleRate.Hz * 2 + _denominator) / (_denominator * 2)));
    }

    private readonly record struct Segment(Ticks Tick, long UnitsPerTick, Int128 Units);
}

using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>Where the bars are. A change of metre begins a new bar.</summary>
public sealed class MetreMap
{
    private readonly ImmutableArray<(Ticks Tick, Metre Metre, long Bar)> _changes;
    private readonly int _ticksPerQuarter;

    /// <summary>Builds the map.</summary>
    /// <param name="ticksPerQuarter">Ticks of a quarter note.</param>
    /// <param name="changes">Metres from their ticks on; before the first, 4/4.</param>
    public MetreMap(int ticksPerQuarter, IEnumerable<(Ticks Tick, Metre Metre)> changes)
    {
        _ticksPerQuarter = ticksPerQuarter;
        var byTick = new SortedDictionary<Ticks, Metre> { [0] = Metre.Common };
        foreach (var (tick, metre) in changes)
        {
            byTick[tick] = metre;
        }

        var list = ImmutableArray.CreateBuilder<(Ticks, Metre, long)>();
        foreach (var (tick, metre) in byTick)
        {
            if (list.Count == 0)
            {
                list.Add((tick, metre, 0));
                continue;
            }

            var (lastTick, lastMetre, lastBar) = list[^1];
            list.Add((tick, metre, lastBar + Begun(tick - lastTick, lastMetre)));
        }

        _changes = list.ToImmutable();
    }

    /// <summary>The metre at the start.</summary>
    public Metre First => _changes[0].Metre;

    /// <summary>The changes with the tick from which they hold, first at 0.</summary>
    public IEnumerable<(Ticks Tick, Metre Metre)> Changes => _changes.Select(c => (c.Tick, c.Metre));

    /// <summary>The tick at which a bar begins.</summary>
    /// <param name="bar">0-based: the bars that lie before it.</param>
    public Ticks BarStart(long bar)
    {
        var (tick, metre, first) = _changes.Last(c => c.Bar <= bar);
        return tick + TicksPerBar(metre) * (bar - first);
    }

    /// <summary>The metre of a bar.</summary>
    /// <param name="bar">0-based.</param>
    public Metre MetreOf(long bar) => _changes.Last(c => c.Bar <= bar).Metre;

    /// <summary>Bars begun before a tick: 0 at the very start, 1 within the first bar and at its end.</summary>
    public long BarsUntil(Ticks tick)
    {
        if (tick <= 0)
        {
            return 0;
        }

        var (start, metre, first) = _changes.Last(c => c.Tick < tick);
        return first + Begun(tick - start, metre);
    }

    /// <summary>How many bars of a metre are begun within a time.</summary>
    private long Begun(Ticks time, Metre metre)
    {
        var length = TicksPerBar(metre).Count;
        return (time.Count + length - 1) / length;
    }

    private Ticks TicksPerBar(Metre metre) => Ticks.Max(1, metre.BarOf(_ticksPerQuarter));
}

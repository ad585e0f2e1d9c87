using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>When a simulated source really plays what is due at a place of the music: late, drifting, or shaken by its clock.</summary>
internal sealed class SourceClock
{
    /// <summary>What is left of a clock's jitter once a loop has gone round.</summary>
    private const double Calm = 0.1;

    private readonly SimulatedUnit _gear;
    private readonly SampleRate _sampleRate;
    private readonly bool _free;
    private readonly double _jitter;

    /// <summary>Makes the clock of a source.</summary>
    /// <param name="unit">The source.</param>
    /// <param name="pass">How it is recorded.</param>
    public SourceClock(Unit unit, PassSettings pass)
    {
        _gear = unit.Simulated;
        _sampleRate = pass.SampleRate;
        _free = unit.Chart.Clock.Any && unit.Clock == ClockMode.Free;
        var shaken = unit.Chart.Clock.Follows && unit.Clock == ClockMode.Follows;
        _jitter = shaken ? _gear.JitterMs * (pass is { Looped: true, SettleLoops: > 0 } ? Calm : 1) : 0;
    }

    /// <summary>The frame at which a note is really played.</summary>
    /// <param name="due">Where the music has it.</param>
    /// <param name="number">The note's number, for its own jitter.</param>
    public Frames At(Frames due, int number)
    {
        var ms = _gear.LatencyMs + (_free ? _gear.OffsetMs : 0) + _jitter * Shake(number);
        var drift = _free ? due.Count * _gear.DriftPpm / 1e6 : 0;
        return due + new Frames((long)Math.Round(drift + ms * _sampleRate / 1000));
    }

    /// <summary>From -1 to 1, its own for every note and the same in every run.</summary>
    private static double Shake(int number)
    {
        var hash = (uint)number * 2654435761u;
        hash = (hash ^ (hash >> 15)) * 2246822519u;
        hash ^= hash >> 13;
        return hash / 2147483648.0 - 1;
    }
}

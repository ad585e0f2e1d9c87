using System.Collections.Immutable;

namespace GateSplit.Core.Splits;

/// <summary>How a simulated source really behaves, whatever the split says. By default it is ideal and all settings are made.</summary>
public sealed record SimulatedUnit
{
    /// <summary>The settings of its chart that are not made yet, counted from 0.</summary>
    public ImmutableArray<int> NotMade { get; init; } = [];

    /// <summary>Milliseconds from a note to the gate, 0 to 500.</summary>
    public double LatencyMs { get; init; }

    /// <summary>Milliseconds by which it starts late, or early below 0, when nobody starts it for it: -2000 to 2000.</summary>
    public double OffsetMs { get; init; }

    /// <summary>How much slower its own clock runs, in millionths: -500 to 500. It counts where no clock is followed.</summary>
    public double DriftPpm { get; init; }

    /// <summary>The most by which a followed clock moves a note, in milliseconds, 0 to 20; a tenth of it once a loop has settled.</summary>
    public double JitterMs { get; init; }

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Unit unit, string place) =>
    [
        .. Core.Misfits.Unless(
            this is { LatencyMs: >= 0 and <= 500, OffsetMs: >= -2000 and <= 2000, DriftPpm: >= -500 and <= 500, JitterMs: >= 0 and <= 20 },
            place,
            "Latency goes from 0 to 500 ms, the start from -2000 to 2000 ms, drift from -500 to 500 ppm, jitter from 0 to 20 ms."),
        .. Core.Misfits.Unless(
            !NotMade.IsDefault && NotMade.All(i => i >= 0 && i < unit.Chart.Settings.Length) && NotMade.Distinct().Count() == NotMade.Length,
            $"{place}.notMade",
            $"{unit.Name} has no such setting."),
    ];
}

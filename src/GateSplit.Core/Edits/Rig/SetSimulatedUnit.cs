using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sets how a simulated source really behaves.</summary>
/// <param name="UnitId">Which.</param>
/// <param name="Simulated">How.</param>
public sealed record SetSimulatedUnit(string UnitId, SimulatedUnit Simulated) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => $"Set how the simulated {unit.Name} behaves";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit)
    {
        if (Simulated is not { LatencyMs: >= 0 and <= 500, OffsetMs: >= -2000 and <= 2000, DriftPpm: >= -500 and <= 500, JitterMs: >= 0 and <= 20 })
        {
            return new Refusal("Latency goes from 0 to 500 ms, the start from -2000 to 2000 ms, drift from -500 to 500 ppm, jitter from 0 to 20 ms.");
        }

        return Simulated.NotMade.IsDefault || Simulated.NotMade.Any(i => i < 0 || i >= unit.Chart.Settings.Length)
            ? new Refusal($"{unit.Name} has no such setting.")
            : unit with { Simulated = Simulated };
    }
}

using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sets how late, how far off and how steady a simulated source is; which of its settings are made stays.</summary>
/// <param name="UnitId">Which.</param>
/// <param name="LatencyMs">See <see cref="SimulatedUnit.LatencyMs"/>.</param>
/// <param name="OffsetMs">See <see cref="SimulatedUnit.OffsetMs"/>.</param>
/// <param name="DriftPpm">See <see cref="SimulatedUnit.DriftPpm"/>.</param>
/// <param name="JitterMs">See <see cref="SimulatedUnit.JitterMs"/>.</param>
public sealed record ShapeSimulatedUnit(UnitId UnitId, double LatencyMs, double OffsetMs, double DriftPpm, double JitterMs) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Set how the simulated {split.Unit(UnitId)?.Name ?? "source"} behaves";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split.Unit(UnitId) is { } unit
        ? new SetSimulatedUnit(UnitId, unit.Simulated with { LatencyMs = LatencyMs, OffsetMs = OffsetMs, DriftPpm = DriftPpm, JitterMs = JitterMs }).Apply(split)
        : new Refusal("This source is not in the split any more.");
}

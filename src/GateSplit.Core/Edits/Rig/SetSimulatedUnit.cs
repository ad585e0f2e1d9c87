using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sets how a simulated source really behaves.</summary>
/// <param name="UnitId">Which.</param>
/// <param name="Simulated">How.</param>
public sealed record SetSimulatedUnit(UnitId UnitId, SimulatedUnit Simulated) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => $"Set how the simulated {unit.Name} behaves";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit) => unit with { Simulated = Simulated };
}

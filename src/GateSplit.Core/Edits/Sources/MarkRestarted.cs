using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Says that a source was started again, so that its mode and its declared ports hold.</summary>
/// <param name="UnitId">Which.</param>
public sealed record MarkRestarted(UnitId UnitId) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => $"{unit.Name} was started again";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit) => unit with { ModeInForceId = null, UnloadedPorts = [] };
}

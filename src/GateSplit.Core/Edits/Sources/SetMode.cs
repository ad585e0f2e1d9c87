using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Puts a source into a mode.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="ModeId">A mode of its chart.</param>
public sealed record SetMode(UnitId UnitId, ModeId ModeId) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => split.Unit(UnitId) is { } unit
        ? $"Set {unit.Name} to {unit.Chart.Modes.FirstOrDefault(m => m.Id == ModeId)?.Name ?? ModeId.Value}"
        : "Set a mode";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Unit(UnitId) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        if (unit.Chart.Modes.FirstOrDefault(m => m.Id == ModeId) is not { } mode)
        {
            return new Refusal($"{unit.Name} has no such mode.");
        }

        // Until it is started again, the source stays in the mode it is in.
        var inForce = mode.NeedsRestart && unit.ModeInForce.Id != mode.Id ? unit.ModeInForce.Id : (ModeId?)null;
        return split.With(unit with { ModeId = ModeId, ModeInForceId = inForce });
    }
}

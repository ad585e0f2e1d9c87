namespace GateSplit.Core.Splits;

/// <summary>Puts a source into a mode.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="ModeId">A mode of its chart.</param>
public sealed record SetMode(string UnitId, string ModeId) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => split.Unit(UnitId) is { } unit
        ? $"Set {unit.Name} to {unit.Chart.Modes.FirstOrDefault(m => m.Id == ModeId)?.Name ?? ModeId}"
        : "Set a mode";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split)
    {
        if (split.Unit(UnitId) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        return unit.Chart.Modes.Any(m => m.Id == ModeId)
            ? split.With(unit with { ModeId = ModeId })
            : new Refusal($"{unit.Name} has no such mode.");
    }
}

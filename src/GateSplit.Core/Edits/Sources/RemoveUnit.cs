using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Takes a source out of the session, with its row of inputs; tracks that listened there stay, without an input.</summary>
/// <param name="UnitId">Which.</param>
public sealed record RemoveUnit(UnitId UnitId) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Remove {split.Unit(UnitId)?.Name ?? "a source"}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split.Unit(UnitId) is { } unit
        ? (split.Without(split.BankOf(unit)) with { Units = split.Units.Remove(unit) }).Tidied()
        : new Refusal("This source is not in the split any more.");
}

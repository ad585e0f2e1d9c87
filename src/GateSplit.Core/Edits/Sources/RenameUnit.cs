using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Gives a source of the session another name.</summary>
/// <param name="UnitId">Which.</param>
/// <param name="NewName">1 to 80 characters.</param>
public sealed record RenameUnit(UnitId UnitId, string NewName) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => $"Call {unit.Name} {NewName.Trim()}";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit) => unit with { Name = NewName.Trim() };
}

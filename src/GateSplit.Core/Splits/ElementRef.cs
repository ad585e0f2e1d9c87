using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>Names one element of one unit, "u1/kick" in forms, addresses and keys.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="ElementId">The element of its chart.</param>
public readonly record struct ElementRef(UnitId UnitId, ElementId ElementId)
{
    /// <summary>Reads what <see cref="ToString"/> writes; null for anything else.</summary>
    public static ElementRef? Read(string? text) =>
        text?.Split('/', 2) is [{ Length: > 0 } unit, { Length: > 0 } element] ? new ElementRef(new UnitId(unit), new ElementId(element)) : null;

    /// <inheritdoc/>
    public override string ToString() => $"{UnitId}/{ElementId}";
}

namespace GateSplit.Core.Splits;

/// <summary>Names one element of one unit.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="ElementId">The element of its chart.</param>
public readonly record struct ElementRef(string UnitId, string ElementId)
{
    /// <inheritdoc/>
    public override string ToString() => $"{UnitId}/{ElementId}";
}

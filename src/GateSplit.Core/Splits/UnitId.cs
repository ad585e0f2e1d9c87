using System.Text.Json.Serialization;

namespace GateSplit.Core.Splits;

/// <summary>Names a source within a split.</summary>
/// <param name="Value">u1, u2 and so on.</param>
[JsonConverter(typeof(IdConverter<UnitId>))]
public readonly record struct UnitId(string Value) : IId<UnitId>
{
    /// <inheritdoc/>
    public static UnitId Of(string value) => new(value);

    /// <inheritdoc/>
    public override string ToString() => Value;
}

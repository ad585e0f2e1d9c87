using System.Text.Json.Serialization;

namespace GateSplit.Core.Charts;

/// <summary>Names an element within its chart.</summary>
/// <param name="Value">Such as kick.</param>
[JsonConverter(typeof(IdConverter<ElementId>))]
public readonly record struct ElementId(string Value) : IId<ElementId>
{
    /// <inheritdoc/>
    public static ElementId Of(string value) => new(value);

    /// <inheritdoc/>
    public override string ToString() => Value;
}

using System.Text.Json.Serialization;

namespace GateSplit.Core.Charts;

/// <summary>Names a chart on the shelf.</summary>
/// <param name="Value">Such as mudlark-nine.</param>
[JsonConverter(typeof(IdConverter<ChartId>))]
public readonly record struct ChartId(string Value) : IId<ChartId>
{
    /// <inheritdoc/>
    public static ChartId Of(string value) => new(value);

    /// <inheritdoc/>
    public override string ToString() => Value;
}

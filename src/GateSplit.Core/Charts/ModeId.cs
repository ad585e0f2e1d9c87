using System.Text.Json.Serialization;

namespace GateSplit.Core.Charts;

/// <summary>Names a mode within its chart.</summary>
/// <param name="Value">Such as separate.</param>
[JsonConverter(typeof(IdConverter<ModeId>))]
public readonly record struct ModeId(string Value) : IId<ModeId>
{
    /// <inheritdoc/>
    public static ModeId Of(string value) => new(value);

    /// <inheritdoc/>
    public override string ToString() => Value;
}

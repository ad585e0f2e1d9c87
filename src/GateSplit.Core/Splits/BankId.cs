using System.Text.Json.Serialization;

namespace GateSplit.Core.Splits;

/// <summary>Names a row of inputs within a split.</summary>
/// <param name="Value">b-u1 for the row of the source u1, in1 for one added by hand.</param>
[JsonConverter(typeof(IdConverter<BankId>))]
public readonly record struct BankId(string Value) : IId<BankId>
{
    /// <inheritdoc/>
    public static BankId Of(string value) => new(value);

    /// <inheritdoc/>
    public override string ToString() => Value;
}

using System.Text.Json;
using System.Text.Json.Serialization;

namespace GateSplit.Core.Quantities;

/// <summary>Quantities are plain numbers in JSON.</summary>
/// <typeparam name="T">The kind of quantity.</typeparam>
public sealed class QuantityConverter<T> : JsonConverter<T>
    where T : struct, IQuantity<T>
{
    /// <inheritdoc/>
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => reader.TokenType == JsonTokenType.Number
        ? T.Of(reader.GetDouble())
        : throw new JsonException("A number is needed.");

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Value);
}

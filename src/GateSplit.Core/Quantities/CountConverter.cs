using System.Text.Json;
using System.Text.Json.Serialization;

namespace GateSplit.Core.Quantities;

/// <summary>Counts are plain numbers in JSON.</summary>
/// <typeparam name="T">The kind of count.</typeparam>
public sealed class CountConverter<T> : JsonConverter<T>
    where T : struct, ICount<T>
{
    /// <inheritdoc/>
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.Number && reader.TryGetInt64(out var count) ? T.Of(count) : throw new JsonException("A whole number is needed.");

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Count);
}

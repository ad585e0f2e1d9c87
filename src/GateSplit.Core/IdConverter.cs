using System.Text.Json;
using System.Text.Json.Serialization;

namespace GateSplit.Core;

/// <summary>Ids are plain texts in JSON.</summary>
/// <typeparam name="T">The kind of id.</typeparam>
public sealed class IdConverter<T> : JsonConverter<T>
    where T : struct, IId<T>
{
    /// <inheritdoc/>
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => reader.TokenType == JsonTokenType.String
        ? T.Of(reader.GetString()!)
        : throw new JsonException("An id is a text.");

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => writer.WriteStringValue(value.Value);
}

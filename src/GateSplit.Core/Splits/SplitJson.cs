using System.Text.Json;
using System.Text.Json.Serialization;

namespace GateSplit.Core.Splits;

/// <summary>The split as JSON: how the database and exported sessions keep it.</summary>
public static class SplitJson
{
    /// <summary>Camel case, names for enumerations, nothing left out.</summary>
    public static JsonSerializerOptions Options { get; } = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
        WriteIndented = false,
        AllowDuplicateProperties = false,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
    };

    /// <summary>How documents from outside are taken apart.</summary>
    public static JsonDocumentOptions Strict { get; } = new() { AllowDuplicateProperties = false };

    /// <summary>Writes it.</summary>
    public static string Write(Split split) => JsonSerializer.Serialize(split, Options);

    /// <summary>True if two are the same in everything that is kept.</summary>
    public static bool Same(Split one, Split other) => ReferenceEquals(one, other)
        || JsonSerializer.SerializeToUtf8Bytes(one, Options).AsSpan().SequenceEqual(JsonSerializer.SerializeToUtf8Bytes(other, Options));

    /// <summary>Reads it.</summary>
    /// <exception cref="JsonException">It is not a split.</exception>
    public static Split Read(string json) => JsonSerializer.Deserialize<Split>(json, Options)
        ?? throw new JsonException("There is no split.");
}

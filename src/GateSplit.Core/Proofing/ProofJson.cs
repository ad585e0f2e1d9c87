using System.Text.Json;
using System.Text.Json.Serialization;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Proofs and mends as JSON: how the database keeps them.</summary>
public static class ProofJson
{
    /// <summary>As splits are written, with mends and levels. The database keeps the parts of an object in an order of its own.</summary>
    internal static readonly JsonSerializerOptions Options = new(SplitJson.Options) { IncludeFields = true, AllowOutOfOrderMetadataProperties = true, Converters = { new LevelConverter() } };

    /// <summary>Writes a proof.</summary>
    public static string Write(TakeProof proof) => JsonSerializer.Serialize(proof, Options);

    /// <summary>Reads a proof.</summary>
    /// <returns>Null for one that an earlier version of the program has kept in another shape: it is made anew.</returns>
    public static TakeProof? Read(string json)
    {
        try
        {
            return JsonSerializer.Deserialize<TakeProof>(json, Options);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>Writes what a roll call says.</summary>
    public static string Write(RollCallReading reading) => JsonSerializer.Serialize(reading, Options);

    /// <summary>Reads what a roll call says.</summary>
    /// <returns>Null for one that an earlier version of the program has kept in another shape: it has to be read anew.</returns>
    public static RollCallReading? ReadRollCall(string json)
    {
        try
        {
            return JsonSerializer.Deserialize<RollCallReading>(json, Options);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>True if two roll calls call the same, and expect it in the same places.</summary>
    public static bool Same(RollCall one, RollCall other) => JsonSerializer.Serialize(one, Options) == JsonSerializer.Serialize(other, Options);

    /// <summary>Writes mends.</summary>
    public static string Write(IReadOnlyList<Mend> mends) => JsonSerializer.Serialize(mends, Options);

    /// <summary>Reads mends.</summary>
    /// <exception cref="JsonException">They are none.</exception>
    public static IReadOnlyList<Mend> ReadMends(string json) => JsonSerializer.Deserialize<List<Mend>>(json, Options) ?? [];

    /// <summary>Levels, of which silence is no number.</summary>
    private sealed class LevelConverter : JsonConverter<Decibels>
    {
        private const string Silence = "silence";

        public override Decibels Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => reader.TokenType switch
        {
            JsonTokenType.Number => new(reader.GetDouble()),
            JsonTokenType.String when reader.GetString() == Silence => Decibels.Silence,
            _ => throw new JsonException("A level is needed."),
        };

        public override void Write(Utf8JsonWriter writer, Decibels value, JsonSerializerOptions options)
        {
            if (value > Decibels.Silence)
            {
                writer.WriteNumberValue(value.Value);
            }
            else
            {
                writer.WriteStringValue(Silence);
            }
        }
    }
}

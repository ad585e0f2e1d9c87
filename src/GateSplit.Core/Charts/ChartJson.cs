using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>A chart as a JSON file. The schema is published in docs/schemas/chart.schema.json (JSON Schema 2020-12).</summary>
public static class ChartJson
{
    /// <summary>The name in the field "format".</summary>
    public const string FormatName = "gate-split-chart";

    /// <summary>The largest file that is read.</summary>
    public const int MostBytes = 4_000_000;

    /// <summary>Camel case, names for enumerations, nothing left out.</summary>
    public static JsonSerializerOptions Options { get; } = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
        WriteIndented = true,
        AllowDuplicateProperties = false,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        NumberHandling = JsonNumberHandling.Strict,
        TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { WithoutComputed } },
    };

    /// <summary>Writes a chart.</summary>
    public static string Write(Chart chart) => JsonSerializer.Serialize(new ChartFile(FormatName, ChartVersions.Current, chart), Options);

    /// <summary>Reads a chart.</summary>
    /// <returns>The chart; or a sentence with the place in the file.</returns>
    public static Result<Chart> Read(string json)
    {
        if (json.Length > MostBytes)
        {
            return new Refusal($"This file is larger than {(Bytes)MostBytes}, which is the most that is read for a chart.");
        }

        ChartFile? file;
        try
        {
            // The version comes first: a newer file may be laid out otherwise.
            using var document = JsonDocument.Parse(json, new JsonDocumentOptions { AllowDuplicateProperties = false });
            var head = document.Deserialize<Head>(Options);
            if (head?.Format != FormatName)
            {
                return new Refusal($"This is no chart: its field \"format\" is not \"{FormatName}\".");
            }

            if (head.Version is not (>= 1 and <= ChartVersions.Current))
            {
                return new Refusal($"This chart has version {head.Version} of the format; {ChartVersions.Current} is the newest that is read here.");
            }

            file = Upgraded(document, head.Version).Deserialize<ChartFile>(Options);
        }
        catch (Exception e) when (JsonTrouble.IsTrouble(e))
        {
            return new Refusal(JsonTrouble.Of(e));
        }

        return ChartRules.Trouble(file!.Chart) is { } trouble ? new Refusal(trouble) : file.Chart;
    }

    private static JsonNode Upgraded(JsonDocument document, int version)
    {
        var file = JsonObject.Create(document.RootElement) ?? throw new JsonException();
        if (file["chart"] is JsonObject chart)
        {
            ChartVersions.Upgrade(chart, version);
        }

        return file;
    }

    /// <summary>The schema of the file.</summary>
    public static string Schema()
    {
        var schema = Options.GetJsonSchemaAsNode(typeof(ChartFile), new JsonSchemaExporterOptions { TreatNullObliviousAsNonNullable = true, TransformSchemaNode = Plain }).AsObject();
        schema.Insert(0, "$schema", "https://json-schema.org/draft/2020-12/schema");
        schema.Insert(1, "title", "Gate Split chart");
        schema["properties"]!["format"] = new JsonObject { ["const"] = FormatName };
        return schema.ToJsonString(new JsonSerializerOptions { WriteIndented = true }) + "\n";
    }

    /// <summary>Ids are written as texts and quantities as numbers, whatever their types look like.</summary>
    internal static JsonNode Plain(JsonSchemaExporterContext context, JsonNode schema)
    {
        var type = Nullable.GetUnderlyingType(context.TypeInfo.Type) ?? context.TypeInfo.Type;
        bool Is(Type shape) => type.GetInterfaces().Any(i => i.IsGenericType && i.GetGenericTypeDefinition() == shape);
        var plain = Is(typeof(IId<>)) ? "string" : Is(typeof(IQuantity<>)) ? "number" : Is(typeof(ICount<>)) ? "integer" : null;
        return plain is null ? schema : new JsonObject { ["type"] = type == context.TypeInfo.Type ? plain : new JsonArray(plain, "null") };
    }

    /// <summary>The file.</summary>
    /// <param name="Format">Always <see cref="FormatName"/>.</param>
    /// <param name="Version">Of the format.</param>
    /// <param name="Chart">The chart.</param>
    public sealed record ChartFile(string Format, int Version, Chart Chart);

    private sealed record Head(string? Format = null, int Version = 0);

    /// <summary>What is computed from the rest is neither written nor part of the schema.</summary>
    private static void WithoutComputed(JsonTypeInfo info)
    {
        for (var i = info.Properties.Count - 1; i >= 0; i--)
        {
            if (info.Properties[i].Set is null)
            {
                info.Properties.RemoveAt(i);
            }
        }
    }
}

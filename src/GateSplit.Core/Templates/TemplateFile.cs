using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization.Metadata;
using System.Text.Unicode;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Templates;

/// <summary>A template as one JSON file: docs/schemas/template.schema.json.</summary>
public static class TemplateFile
{
    /// <summary>The name in the field "format".</summary>
    public const string FormatName = "gate-split-template";

    /// <summary>The version that is written: that of the split in it.</summary>
    public const int Version = SplitVersions.Current;

    /// <summary>The most bytes of a file.</summary>
    public const int MostBytes = 16 << 20;

    /// <summary>Writes one.</summary>
    public static byte[] Write(Template template) => JsonSerializer.SerializeToUtf8Bytes(
        new Document(FormatName, Version, template.Name, template.Kind, template.Notes, template.Split), SplitJson.Options);

    /// <summary>Reads one of whatever version there was.</summary>
    /// <returns>The template; or a sentence with the place that does not fit.</returns>
    public static Result<Template> Read(ReadOnlySpan<byte> json)
    {
        if (json.Length > MostBytes || !Utf8.IsValid(json))
        {
            return new Refusal(json.Length > MostBytes ? "This file is too large for a template." : "This is no template: it holds bytes that are no text (UTF-8).");
        }

        try
        {
            return Read(JsonNode.Parse(json, documentOptions: SplitJson.Strict));
        }
        catch (Exception e) when (JsonTrouble.IsTrouble(e))
        {
            return new Refusal($"This is no template. {JsonTrouble.Of(e)}");
        }
    }

    /// <summary>The schema of the file.</summary>
    public static string Schema()
    {
        var options = new JsonSerializerOptions(SplitJson.Options) { TypeInfoResolver = new DefaultJsonTypeInfoResolver() };
        var schema = options.GetJsonSchemaAsNode(typeof(Document), new JsonSchemaExporterOptions { TreatNullObliviousAsNonNullable = true, TransformSchemaNode = ChartJson.Plain }).AsObject();
        schema.Insert(0, "$schema", "https://json-schema.org/draft/2020-12/schema");
        schema.Insert(1, "title", "Gate Split template");
        schema["properties"]!["format"] = new JsonObject { ["const"] = FormatName };
        schema["properties"]!["version"] = new JsonObject { ["type"] = "integer", ["minimum"] = 1, ["maximum"] = Version };
        return schema.ToJsonString(new JsonSerializerOptions { WriteIndented = true }) + "\n";
    }

    private static Result<Template> Read(JsonNode? json)
    {
        if (json is not JsonObject file || file.Deserialize<Head>(SplitJson.Options) is not { Format: FormatName } head)
        {
            return new Refusal("This is no template.");
        }

        if (head.Version is < 1 or > Version)
        {
            return new Refusal($"This template has version {head.Version} of the format; {Version} is the newest that is read here. A newer Gate Split can export it for an older one, or bring it in.");
        }

        if (!Names.Fit(head.Name, Template.LongestName) || head.Kind is not { } kind || !Enum.IsDefined(kind))
        {
            return new Refusal($"name: a template needs a name of 1 to {Template.LongestName} letters, and a kind.");
        }

        var split = SplitVersions.Read(file["split"], head.Version);
        if (!split.Ok)
        {
            return new Refusal(split.Trouble);
        }

        if (kind != TemplateKind.Whole && split.Value.Units.Length != 1)
        {
            return new Refusal("split.units: a template of one source has one source.");
        }

        var midi = MidiReader.Read(head.Notes ?? []);
        return midi.Ok ? new Template(head.Name!, kind, head.Notes!, split.Value) : new Refusal($"notes: {midi.Trouble}");
    }

    private sealed record Document(string Format, int Version, string Name, TemplateKind Kind, byte[] Notes, Split Split);

    private sealed record Head(string? Format = null, int Version = 0, string? Name = null, TemplateKind? Kind = null, byte[]? Notes = null);
}

using System.Runtime.CompilerServices;
using System.Text.Json.Nodes;
using GateSplit.Core.Charts;
using NJsonSchema;

namespace GateSplit.Core.Tests.Charts;

public sealed class ChartJsonTests
{
    public static TheoryData<string> Ids => [.. Shelf.Charts.Select(c => c.Id.Value)];

    /// <summary>What is done to the drum machine's file, and what is said of it.</summary>
    public static TheoryData<string, Action<JsonObject>, string> Damage => new()
    {
        { "another format", f => f["format"] = "something", "This is no chart" },
        { "a newer version", f => f["version"] = 7, "version 7 of the format; 2 is the newest" },
        { "no version", f => f.Remove("version"), "version 0" },
        { "a text for a number", f => Chart(f)["ports"]![2]!["number"] = "three", "chart.ports[2].number: the value is not of the kind that belongs there" },
        { "a number for a name", f => Chart(f)["elements"]![1]!["name"] = 5, "chart.elements[1].name" },
        { "an unknown word", f => Chart(f)["elements"]![0]!["width"] = "wide", "chart.elements[0].width" },
        { "something missing", f => Chart(f)["ports"]![0]!.AsObject().Remove("tap"), "chart.ports[0]: 'tap' is missing" },
        { "no elements", f => Chart(f)["elements"] = new JsonArray(), "at least one element" },
        { "null for a list", f => Chart(f)["voices"] = null, "chart" },
        { "a port twice", f => Chart(f)["ports"]![3]!["number"] = 2, "chart.ports[3].number: port 2 is there twice" },
        { "a channel twice", f => Chart(f)["ports"]![3]!["firstChannel"] = 3, "chart.ports[3]: channel 3 belongs to port 2 already" },
        { "two mains", f => Chart(f)["ports"]![3]!["isMain"] = true, "exactly one port carries the main mix" },
        { "a channel far out", f => Chart(f)["ports"]![3]!["firstChannel"] = 4000, "chart.ports[3]" },
        { "an element twice", f => Chart(f)["elements"]![2]!["id"] = "kick", "chart.elements[2].id: kick is there twice" },
        { "a voice that is not there", f => Chart(f)["elements"]![1]!["hears"]![0]!["voiceId"] = "gong", "chart.elements[1].hears: there is no voice gong" },
        { "a port that is not there", f => Chart(f)["elements"]![1]!["port"] = 99, "chart.elements[1].ports: there is no port 99" },
        { "a mode's port that is not there", f => Chart(f)["modes"]![1]!["ports"]![0] = 40, "chart.modes[1].ports: there is no port 40" },
        { "a fader out of range", f => Chart(f)["elements"]![1]!["faderDb"] = 200, "levels go from -120 to 12 dB" },
        { "a ring of hours", f => Chart(f)["voices"]![0]!["drum"]!["bodyDecaySeconds"] = 99999, "chart.voices[0]: a voice rings for 0 to 60 seconds" },
        { "a key out of range", f => Chart(f)["voices"]![0]!["keys"]![0] = 128, "chart.voices[0]" },
        { "an id that is no id", f => Chart(f)["id"] = "../etc", "chart.id" },
        { "groups in a circle", f => Chart(f)["groups"] = JsonNode.Parse("""[{"name":"A","parent":"B"},{"name":"B","parent":"C"},{"name":"C","parent":"A"}]"""), "chart.groups[0].parent: A follows itself, by way of A, B and C" },
        { "a parent that is not there", f => Chart(f)["groups"] = JsonNode.Parse("""[{"name":"A","parent":"Z"}]"""), "chart.groups[0].parent: there is no group Z" },
        { "ten thousand elements", f => Many(Chart(f)["elements"]!.AsArray(), 10_000), "chart.elements: 10010 are too many: 512 are the most" },
    };

    [Theory]
    [MemberData(nameof(Ids))]
    public async Task A_chart_comes_back_as_it_was_and_fits_the_published_schema(string id)
    {
        var json = ChartJson.Write(Shelf.Find(new ChartId(id))!);
        var read = ChartJson.Read(json);
        Assert.True(read.Ok, read.Trouble);
        Assert.Equal(json, ChartJson.Write(read.Value));
        var schema = await JsonSchema.FromJsonAsync(await File.ReadAllTextAsync(SchemaPath()));
        Assert.Empty(schema.Validate(json));
    }

    [Fact]
    public async Task The_published_schema_is_that_of_the_program_and_refuses_what_does_not_fit()
    {
        Assert.Equal(await File.ReadAllTextAsync(SchemaPath()), ChartJson.Schema());
        var schema = await JsonSchema.FromJsonAsync(ChartJson.Schema());
        var file = JsonNode.Parse(ChartJson.Write(MudlarkNine.Chart))!.AsObject();
        Chart(file)["ports"]![2]!["number"] = "three";
        Assert.NotEmpty(schema.Validate(file.ToJsonString()));
    }

    [Theory]
    [MemberData(nameof(Damage))]
    public void What_does_not_fit_is_told_with_its_place(string what, Action<JsonObject> damage, string words)
    {
        var file = JsonNode.Parse(ChartJson.Write(MudlarkNine.Chart))!.AsObject();
        damage(file);
        var read = ChartJson.Read(file.ToJsonString());
        Assert.False(read.Ok, what);
        Assert.Contains(words, read.Trouble);
        Assert.EndsWith(".", read.Trouble);
    }

    [Theory]
    [InlineData("")]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("{")]
    [InlineData("not JSON")]
    [InlineData("{\"format\":\"gate-split-chart\",\"version\":1}")]
    public void What_is_no_chart_at_all_is_told(string text) => Assert.False(ChartJson.Read(text).Ok);

    [Fact]
    public void A_broken_line_is_told_by_its_number()
    {
        var lines = ChartJson.Write(MudlarkNine.Chart).Split('\n');
        lines[41] += " }";
        Assert.StartsWith("Line 4", ChartJson.Read(string.Join('\n', lines)).Trouble);
    }

    private static JsonObject Chart(JsonObject file) => file["chart"]!.AsObject();

    private static void Many(JsonArray elements, int count)
    {
        for (var i = 0; i < count; i++)
        {
            var copy = elements[0]!.DeepClone();
            copy["id"] = $"copy-{i}";
            elements.Add(copy);
        }
    }

    private static string SchemaPath([CallerFilePath] string here = "") =>
        Path.Combine(Path.GetDirectoryName(here)!, "../../../docs/schemas/chart.schema.json");
}

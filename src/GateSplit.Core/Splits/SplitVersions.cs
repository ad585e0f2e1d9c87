using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>
/// Splits of every version there was, read as splits of the present one. A step knows only JSON: the types are those of the present version.
/// Whatever comes out has passed <see cref="SplitRules"/>.
/// </summary>
public static class SplitVersions
{
    /// <summary>The version that is written.</summary>
    public const int Current = 2;

    private static readonly ImmutableArray<Action<JsonObject>> Steps = [From1];

    /// <summary>Reads a split.</summary>
    /// <param name="json">The document.</param>
    /// <param name="version">The version it was written in.</param>
    /// <returns>A sound split; or a sentence with the place that does not fit.</returns>
    public static Result<Split> Read(string json, int version)
    {
        if (version is < 1 or > Current)
        {
            return new Refusal($"The split has version {version} of the format; {Current} is the newest that is read here.");
        }

        try
        {
            return version == Current ? Checked(SplitJson.Read(json)) : Read(JsonNode.Parse(json, documentOptions: SplitJson.Strict), version);
        }
        catch (Exception e) when (JsonTrouble.IsTrouble(e))
        {
            return new Refusal(JsonTrouble.Of(e));
        }
    }

    /// <summary>Reads a split that stands in a larger document; it is upgraded in place.</summary>
    /// <exception cref="JsonException">It is no split.</exception>
    public static Result<Split> Read(JsonNode? document, int version)
    {
        if (document is not JsonObject split)
        {
            return new Refusal("split: there is no split.");
        }

        foreach (var step in Steps[(version - 1)..])
        {
            step(split);
        }

        return Checked(split.Deserialize<Split>(SplitJson.Options));
    }

    private static Result<Split> Checked(Split? split) => SplitRules.FirstMisfit(split!) is { } misfit ? new Refusal($"{misfit}") : split!;

    /// <summary>
    /// Version 1 kept a few things that could not be: inputs that a row has no longer, numbers for words, patches without limits. And the
    /// check of the disk was named after a room.
    /// </summary>
    private static void From1(JsonObject split)
    {
        foreach (var unit in Objects(split["units"]))
        {
            Worded(unit, "clock", ["follows", "leads", "free"]);
            if (unit["chart"] is JsonObject chart)
            {
                ChartVersions.Upgrade(chart, 1);
            }
        }

        var counts = Objects(split["banks"]).Where(b => Text(b["id"]) is not null).GroupBy(b => Text(b["id"])!).ToDictionary(b => b.Key, b => Whole(b.First()["count"]) ?? 0);
        foreach (var bank in Objects(split["banks"]))
        {
            Keep(bank["off"] as JsonArray, input => Whole(input) is { } channel && channel <= Whole(bank["count"]));
        }

        foreach (var track in Objects(split["tracks"]))
        {
            Worded(track, "monitor", ["never", "whileArmed", "always"]);
            var width = Text(track["width"]) == "stereo" ? 2 : 1;
            foreach (var field in (string[])["input", "bus"])
            {
                if (track[field] is JsonObject at && Text(at["bankId"]) is { } bank && counts.TryGetValue(bank, out var count) && Whole(at["channel"]) > count - width + 1)
                {
                    track[field] = null;
                }
            }
        }

        foreach (var accepted in Objects(split["accepted"]).Where(a => Text(a["key"])?.StartsWith("Room@", StringComparison.Ordinal) == true))
        {
            accepted["key"] = "DiskSpace@" + Text(accepted["key"])!["Room@".Length..];
        }
    }

    /// <summary>A form could keep any number where a word belongs; the first word stands in for one that is none.</summary>
    private static void Worded(JsonObject of, string field, string[] words)
    {
        if (Whole(of[field]) is { } number)
        {
            of[field] = number >= 0 && number < words.Length ? words[number] : words[0];
        }
    }

    private static void Keep(JsonArray? list, Func<JsonNode?, bool> which)
    {
        for (var i = (list?.Count ?? 0) - 1; i >= 0; i--)
        {
            if (!which(list![i]))
            {
                list.RemoveAt(i);
            }
        }
    }

    private static IEnumerable<JsonObject> Objects(JsonNode? list) => (list as JsonArray)?.OfType<JsonObject>() ?? [];

    private static string? Text(JsonNode? node) => node is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;

    private static int? Whole(JsonNode? node) => node is JsonValue value && value.TryGetValue<int>(out var number) ? number : null;
}

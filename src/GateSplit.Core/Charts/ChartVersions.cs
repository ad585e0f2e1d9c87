using System.Collections.Immutable;
using System.Text.Json.Nodes;

namespace GateSplit.Core.Charts;

/// <summary>
/// Charts of earlier versions, brought to the present one step by step. A step knows only JSON: the types are those of the present version.
/// </summary>
public static class ChartVersions
{
    /// <summary>The version that is written.</summary>
    public const int Current = 2;

    private static readonly ImmutableArray<Action<JsonObject>> Steps = [From1];

    /// <summary>Brings a chart to the present version, in place.</summary>
    /// <param name="chart">The chart, without the head of its file.</param>
    /// <param name="version">The version it has, 1 to <see cref="Current"/>.</param>
    public static void Upgrade(JsonObject chart, int version)
    {
        foreach (var step in Steps[(version - 1)..])
        {
            step(chart);
        }
    }

    /// <summary>Version 1 had no limits for how a stand-in sounds and for what an element hears: what is beyond them goes to their ends.</summary>
    private static void From1(JsonObject chart)
    {
        Clamp(chart, "latencyMs", Chart.Latencies.Low, Chart.Latencies.High);
        if (chart["gist"] is JsonValue gist && gist.TryGetValue<string>(out var words))
        {
            chart["gist"] = new string([.. words.Where(c => !char.IsControl(c) || c is '\n' or '\r' or '\t').Take(Names.LongestSentence)]);
        }

        foreach (var element in Objects(chart["elements"]))
        {
            if (element["hears"] is JsonArray hears)
            {
                while (hears.Count > ChartRules.MostParts)
                {
                    hears.RemoveAt(hears.Count - 1);
                }
            }
        }

        foreach (var voice in Objects(chart["voices"]))
        {
            Limit(voice["drum"] as JsonObject, DrumLimits);
            Limit(voice["tone"] as JsonObject, ToneLimits);
        }
    }

    private static readonly ImmutableArray<(string Field, double Low, double High)> DrumLimits =
    [
        ("bodyLevel", 0, 1), ("overtoneLevel", 0, 1), ("noiseLevel", 0, 1), ("metalLevel", 0, 1),
        ("bodyHz", 10, 22000), ("noiseLowHz", 10, 22000), ("noiseHighHz", 10, 22000), ("metalHz", 10, 22000),
        ("bodyDecaySeconds", 0.005, 60), ("noiseDecaySeconds", 0.005, 60), ("metalDecaySeconds", 0.005, 60), ("bendSeconds", 0.005, 60),
        ("bendOctaves", 0, 6), ("bursts", 1, 16), ("chokeGroup", 0, 64),
    ];

    private static readonly ImmutableArray<(string Field, double Low, double High)> ToneLimits =
    [
        ("saw", 0, 1), ("sine", 0, 1), ("bell", 0, 1), ("sustain", 0, 1), ("level", 0, 1),
        ("cutoffHz", 10, 22000), ("cutoffOctaves", 0, 10), ("attackSeconds", 0, 60), ("decaySeconds", 0, 60), ("releaseSeconds", 0, 60),
        ("detuneCents", 0, 100), ("semitones", -48, 48),
    ];

    private static void Limit(JsonObject? patch, ImmutableArray<(string Field, double Low, double High)> limits)
    {
        foreach (var (field, low, high) in patch is null ? [] : limits)
        {
            Clamp(patch!, field, low, high);
        }
    }

    private static void Clamp(JsonObject of, string field, double low, double high)
    {
        if (of[field] is JsonValue value && value.TryGetValue<double>(out var number) && (number < low || number > high))
        {
            of[field] = number < low ? low : high;
        }
    }

    private static IEnumerable<JsonObject> Objects(JsonNode? list) => (list as JsonArray)?.OfType<JsonObject>() ?? [];
}

using System.Collections.Immutable;

namespace GateSplit.Core.Charts;

/// <summary>What is different between two charts of one source, in sentences.</summary>
public static class ChartDifferences
{
    /// <summary>Tells them; empty if the charts say the same.</summary>
    public static ImmutableArray<string> Between(Chart before, Chart after)
    {
        var told = ImmutableArray.CreateBuilder<string>();
        if (before.Name != after.Name)
        {
            told.Add($"It is called {after.Name} now.");
        }

        told.AddRange(Of("element", before.Elements, after.Elements, e => e.Id.Value, e => e.Name, Same));
        told.AddRange(Of("port", before.Ports, after.Ports, p => $"{p.Number}", p => $"{p.Number}, {p.Name}", Same));
        told.AddRange(Of("mode", before.Modes, after.Modes, m => m.Id.Value, m => m.Name, Same));
        told.AddRange(Of("group", before.Groups, after.Groups, g => g.Name, g => g.Name, Same));
        told.AddRange(Of("voice", before.Voices, after.Voices, v => v.Id.Value, v => v.Name, Same));
        told.AddRange(Of("setting", before.Settings, after.Settings, s => s.What, s => s.What, Same));
        return told.Count == 0 && !Same(before, after) ? ["Something about the source as a whole is different."] : told.ToImmutable();
    }

    private static IEnumerable<string> Of<T>(
        string what, ImmutableArray<T> before, ImmutableArray<T> after, Func<T, string> key, Func<T, string> name, Func<T, T, bool> same)
    {
        var old = before.ToDictionary(key);
        var added = after.Where(a => !old.ContainsKey(key(a))).Select(name).ToList();
        var gone = before.Where(b => after.All(a => key(a) != key(b))).Select(name).ToList();
        var changed = after.Where(a => old.TryGetValue(key(a), out var b) && !same(b, a)).Select(name).ToList();
        foreach (var (names, verb) in new[] { (added, "New"), (gone, "Gone"), (changed, "Changed") })
        {
            if (names.Count > 0)
            {
                yield return $"{verb}: {Words.Count(names.Count, what)} ({Words.List(names)}).";
            }
        }
    }

    /// <summary>Lists in records compare by reference, so what they say is compared.</summary>
    private static bool Same<T>(T a, T b) =>
        System.Text.Json.JsonSerializer.Serialize(a, ChartJson.Options) == System.Text.Json.JsonSerializer.Serialize(b, ChartJson.Options);
}

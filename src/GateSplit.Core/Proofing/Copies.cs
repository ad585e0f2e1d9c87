namespace GateSplit.Core.Proofing;

/// <summary>Files that hold the same, directly or by way of others, together.</summary>
internal static class Copies
{
    /// <summary>Gathers pairs of copies.</summary>
    /// <param name="pairs">Pairs, each with how the other lies to the one.</param>
    /// <returns>Groups: their files, each with the frames by which it lies behind the first of them.</returns>
    public static IReadOnlyList<IReadOnlyDictionary<int, double>> Groups(IReadOnlyList<(int One, DoubleOf Other)> pairs)
    {
        var ways = pairs.SelectMany(p => new[] { (From: p.One, To: p.Other.File, Lag: p.Other.LagFrames), (From: p.Other.File, To: p.One, Lag: -p.Other.LagFrames) }).ToLookup(w => w.From);
        var (groups, seen) = (new List<Dictionary<int, double>>(), new HashSet<int>());
        foreach (var first in ways.Select(w => w.Key).Order().Where(seen.Add))
        {
            var group = new Dictionary<int, double> { [first] = 0 };
            var waiting = new Queue<int>([first]);
            while (waiting.TryDequeue(out var file))
            {
                foreach (var way in ways[file].Where(w => seen.Add(w.To)))
                {
                    group[way.To] = group[file] + way.Lag;
                    waiting.Enqueue(way.To);
                }
            }

            groups.Add(group);
        }

        return groups;
    }
}

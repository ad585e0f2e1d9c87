namespace GateSplit.Data;

/// <summary>
/// Which old edits are kept: the last ones all, of older ones every tenth, and whatever has a name, is the first, or is needed by a take, a
/// job or a demo session. An edit that stays stands for those that went before it.
/// </summary>
public static class HistoryRule
{
    /// <summary>So many edits are kept whole.</summary>
    public const int Whole = 500;

    /// <summary>Of older ones each so-many-eth stays.</summary>
    public const int Every = 10;

    /// <summary>The rule in words.</summary>
    public static string InWords { get; } =
        $"The last {Whole} edits are all kept. Of older ones every tenth stays, and each that has a name or that a take was made with.";

    /// <summary>Applies the rule.</summary>
    /// <param name="rows">All revisions of a session.</param>
    /// <param name="current">The one it is at.</param>
    /// <returns>Those that go, and those that stay and get another parent or stand for more edits.</returns>
    public static (IReadOnlyList<int> Gone, IReadOnlyList<Row> Changed) Thin(IReadOnlyCollection<Row> rows, int current)
    {
        var byNumber = rows.ToDictionary(r => r.Number);
        var way = new List<Row>();
        for (int? at = current; at is { } number; at = byNumber[number].Parent)
        {
            way.Add(byNumber[number]);
        }

        if (way.Count <= Whole)
        {
            return ([], []);
        }

        // What was undone and never made again goes once it is as old as the oldest edit that is kept whole.
        var oldest = way[Whole - 1].Number;
        var kept = way.Take(Whole).Concat(way.Skip(Whole).GroupBy(r => (r.Number - 1) / Every).Select(ten => ten.MinBy(r => r.Number)!))
            .Concat(rows.Where(r => r.IsNeeded || r.Parent is null || r.Number > oldest))
            .Select(r => r.Number).ToHashSet();
        var changed = new List<Row>();
        foreach (var row in rows.Where(r => kept.Contains(r.Number)))
        {
            var (parent, steps) = (row.Parent, row.Steps);
            while (parent is { } number && !kept.Contains(number))
            {
                (parent, steps) = (byNumber[number].Parent, steps + byNumber[number].Steps);
            }

            if (parent != row.Parent)
            {
                changed.Add(row with { Parent = parent, Steps = steps });
            }
        }

        return ([.. byNumber.Keys.Where(n => !kept.Contains(n)).Order()], changed);
    }

    /// <summary>A revision, as far as the rule looks at it.</summary>
    /// <param name="Number">The revision.</param>
    /// <param name="Parent">The one it was made from; null for the first.</param>
    /// <param name="Steps">How many edits it stands for.</param>
    /// <param name="IsNeeded">True if it has a name, or something else needs it.</param>
    public sealed record Row(int Number, int? Parent, int Steps, bool IsNeeded);
}

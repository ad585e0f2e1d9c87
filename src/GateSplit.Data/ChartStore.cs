using Dapper;
using GateSplit.Core;
using GateSplit.Core.Charts;
using Npgsql;

namespace GateSplit.Data;

/// <summary>The shelf: the charts that ship, and those the user made or brought in.</summary>
/// <param name="database">The database.</param>
public sealed class ChartStore(NpgsqlDataSource database)
{
    /// <summary>The most charts of one's own.</summary>
    public const int MostOwn = 1000;

    /// <summary>What is said of a change of a chart that is no longer as the page showed it.</summary>
    public const string Moved = "This chart was changed in another window meanwhile, so nothing was done. What you see now is how it is.";

    /// <summary>All charts: the user's own first, by name. One that cannot be read stands among them, with a sentence.</summary>
    public async Task<IReadOnlyList<ChartRow>> Rows()
    {
        await using var connection = await database.OpenConnectionAsync();
        var own = (await connection.QueryAsync<Stored>("select id, revision, format, document from charts")).Select(Read);
        return
        [
            .. own.OrderBy(r => r.Chart.Value?.Name ?? r.Id.Value, StringComparer.OrdinalIgnoreCase),
            .. Shelf.Charts.Select(c => new ChartRow(c.Id, 0, c)),
        ];
    }

    /// <summary>All charts that can be read.</summary>
    public async Task<IReadOnlyList<Chart>> All() => [.. (await Rows()).Select(r => r.Chart.Value).OfType<Chart>()];

    /// <summary>Finds one; null if there is none, or none that can be read.</summary>
    public async Task<Chart?> Find(ChartId id) => (await Row(id))?.Chart.Value;

    /// <summary>Finds one with its revision; null if there is none.</summary>
    public async Task<ChartRow?> Row(ChartId id)
    {
        if (Shelf.Find(id) is { } shipped)
        {
            return new ChartRow(id, 0, shipped);
        }

        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Stored>("select id, revision, format, document from charts where id = @id", new { id }) is { } row
            ? Read(row)
            : null;
    }

    /// <summary>True of a chart that ships and so cannot be changed.</summary>
    public static bool IsShipped(ChartId id) => Shelf.Find(id) is not null;

    /// <summary>Keeps a new chart of the user's.</summary>
    /// <returns>Why not; null if it is kept.</returns>
    public async Task<string?> Add(Chart chart)
    {
        if (Refusal(chart) is { } refusal)
        {
            return refusal;
        }

        await using var connection = await database.OpenConnectionAsync();
        if (await connection.ExecuteScalarAsync<long>("select count(*) from charts") >= MostOwn)
        {
            return $"There are {MostOwn} charts of your own on the shelf, which are the most: delete one first.";
        }

        var added = await connection.ExecuteAsync(
            "insert into charts (id, document, format) values (@id, @document::jsonb, @format) on conflict do nothing",
            new { id = chart.Id, document = ChartJson.Write(chart), format = ChartVersions.Current });
        return added > 0 ? null : $"There is a chart with the id {chart.Id} already.";
    }

    /// <summary>Keeps a change of a chart, if the chart is still at the revision that it was made from (compare and swap).</summary>
    /// <param name="chart">The chart after it.</param>
    /// <param name="expected">The revision before it.</param>
    /// <returns>Why not; null if it is kept.</returns>
    public async Task<string?> Change(Chart chart, int expected)
    {
        if (Refusal(chart) is { } refusal)
        {
            return refusal;
        }

        await using var connection = await database.OpenConnectionAsync();
        var changed = await connection.ExecuteAsync(
            """
            update charts set document = @document::jsonb, format = @format, revision = revision + 1, updated_at = now()
            where id = @id and revision = @expected
            """,
            new { id = chart.Id, document = ChartJson.Write(chart), format = ChartVersions.Current, expected });
        return changed > 0 ? null : Moved;
    }

    /// <summary>An id like the one wished for that no chart has yet.</summary>
    public async Task<ChartId> FreeId(ChartId wish)
    {
        await using var connection = await database.OpenConnectionAsync();
        var taken = (await connection.QueryAsync<ChartId>("select id from charts")).Concat(Shelf.Charts.Select(c => c.Id)).ToHashSet();
        return Enumerable.Range(1, taken.Count + 1)
            .Select(n => n == 1 ? wish : new ChartId($"{wish.Value[..Math.Min(wish.Value.Length, Names.Longest - 6)]}-{n}"))
            .First(id => !taken.Contains(id));
    }

    /// <summary>Removes a chart of the user's; sessions keep their copies.</summary>
    public async Task Delete(ChartId id)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from charts where id = @id", new { id });
    }

    /// <summary>What is kept has been read back first, as whoever looks at the shelf will read it.</summary>
    private static string? Refusal(Chart chart) => IsShipped(chart.Id)
        ? $"{chart.Name} has the id {chart.Id} of a chart that ships; give it another one."
        : ChartRules.Trouble(chart) ?? ChartJson.Read(ChartJson.Write(chart)).Trouble;

    private static ChartRow Read(Stored row)
    {
        var read = ChartJson.Read(row.Document);
        return new ChartRow(row.Id, row.Revision, read.Ok ? read : new Refusal($"The chart {row.Id} on the shelf cannot be read. {read.Trouble}"));
    }

    private sealed record Stored(ChartId Id, int Revision, int Format, string Document);
}

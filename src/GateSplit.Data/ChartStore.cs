using Dapper;
using GateSplit.Core.Charts;
using Npgsql;

namespace GateSplit.Data;

/// <summary>The shelf: the charts that ship, and those the user made or brought in.</summary>
/// <param name="database">The database.</param>
public sealed class ChartStore(NpgsqlDataSource database)
{
    /// <summary>All charts: the user's own first, by name.</summary>
    public async Task<IReadOnlyList<Chart>> All()
    {
        await using var connection = await database.OpenConnectionAsync();
        var documents = await connection.QueryAsync<string>("select document from charts");
        return [.. documents.Select(Read).OrderBy(c => c.Name, StringComparer.OrdinalIgnoreCase), .. Shelf.Charts];
    }

    /// <summary>Finds one; null if there is none.</summary>
    public async Task<Chart?> Find(string id)
    {
        if (Shelf.Find(id) is { } shipped)
        {
            return shipped;
        }

        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<string>("select document from charts where id = @id", new { id }) is { } document
            ? Read(document)
            : null;
    }

    /// <summary>True of a chart that ships and so cannot be changed.</summary>
    public static bool IsShipped(string id) => Shelf.Find(id) is not null;

    /// <summary>Keeps a chart of the user's, in place of the one with its id.</summary>
    /// <returns>Why not; null if it is kept.</returns>
    public async Task<string?> Save(Chart chart)
    {
        if (IsShipped(chart.Id))
        {
            return $"{chart.Name} has the id {chart.Id} of a chart that ships; give it another one.";
        }

        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into charts (id, document) values (@id, @document::jsonb)
            on conflict (id) do update set document = excluded.document, updated_at = now()
            """,
            new { id = chart.Id, document = ChartJson.Write(chart) });
        return null;
    }

    /// <summary>An id like the one wished for that no chart has yet.</summary>
    public async Task<string> FreeId(string wish)
    {
        var taken = (await All()).Select(c => c.Id).ToHashSet();
        return Enumerable.Range(1, taken.Count + 1).Select(n => n == 1 ? wish : $"{wish}-{n}").First(id => !taken.Contains(id));
    }

    /// <summary>Removes a chart of the user's; sessions keep their copies.</summary>
    public async Task Delete(string id)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from charts where id = @id", new { id });
    }

    private static Chart Read(string document) =>
        ChartJson.Read(document) is { Ok: true } read ? read.Value : throw new InvalidDataException("A chart in the database cannot be read.");
}

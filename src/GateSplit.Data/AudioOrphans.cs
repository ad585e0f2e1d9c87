using Dapper;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Audio that no take uses any more.</summary>
internal static class AudioOrphans
{
    /// <summary>Forgets it in the database.</summary>
    /// <returns>The hashes of its files and overviews, to be removed from the store once the transaction holds.</returns>
    public static async Task<IReadOnlyList<string>> Forget(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        var orphans = await connection.QueryAsync<(string Hash, string Overview)>(
            """
            delete from audio_files a
            where not exists (select 1 from take_tracks t where t.hash = a.hash)
            returning a.hash, a.overview_hash
            """,
            transaction: transaction);
        return [.. orphans.SelectMany(o => new[] { o.Hash, o.Overview })];
    }
}

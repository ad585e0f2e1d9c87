using Dapper;
using GateSplit.Core.Proofing;
using Npgsql;

namespace GateSplit.Data;

/// <summary>What roll calls have said.</summary>
/// <param name="database">The database.</param>
public sealed class RollCallStore(NpgsqlDataSource database)
{
    /// <summary>Keeps a roll call in the place of the one before; nothing, if the session is gone.</summary>
    public async Task Keep(long sessionId, RollCallReading reading, bool byHand, IReadOnlyList<string> files)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into roll_calls (session_id, pass, by_hand, files, body) select id, @pass, @byHand, @files, @body::jsonb from sessions where id = @sessionId
            on conflict (session_id, pass) do update set by_hand = excluded.by_hand, files = excluded.files, body = excluded.body, made_at = now()
            """,
            new { sessionId, pass = reading.Call.Pass, byHand, files = files.ToArray(), body = ProofJson.Write(reading) });
    }

    /// <summary>Those of a session that this version of the program can read, by pass.</summary>
    public async Task<IReadOnlyList<KeptRollCall>> Of(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        var rows = await connection.QueryAsync<(int Pass, DateTime MadeAt, bool ByHand, string[] Files, string Body)>(
            "select pass, made_at, by_hand, files, body::text from roll_calls where session_id = @sessionId order by pass", new { sessionId });
        return [.. from row in rows let reading = ProofJson.ReadRollCall(row.Body) where reading is not null select new KeptRollCall(row.Pass, row.MadeAt, row.ByHand, row.Files, reading)];
    }
}

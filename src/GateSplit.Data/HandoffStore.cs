using Dapper;
using GateSplit.Core.Handoff;
using GateSplit.Core.Quantities;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Handoffs that were made.</summary>
/// <param name="database">The database.</param>
public sealed class HandoffStore(NpgsqlDataSource database)
{
    /// <summary>The most that are kept of a session.</summary>
    public const int Most = 200;

    private const string Heads = "select id, session_id, number, made_at, takes, files, bytes, audio, tracks from handoffs";

    /// <summary>Keeps one; nothing, if the session is gone.</summary>
    /// <param name="sessionId">The session.</param>
    /// <param name="takes">The takes it is of, in words.</param>
    /// <param name="record">What was sent.</param>
    /// <param name="bytes">The length of its zip.</param>
    public async Task Keep(long sessionId, string takes, HandoffRecord record, Bytes bytes)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("select 1 from sessions where id = @sessionId for update", new { sessionId }, transaction);
        await connection.ExecuteAsync(
            """
            insert into handoffs (session_id, number, takes, files, bytes, audio, tracks, document)
            select s.id, coalesce((select max(number) from handoffs where session_id = s.id), 0) + 1, @takes, @files, @bytes, @audio, @tracks, @document from sessions s where s.id = @sessionId
            """,
            new { sessionId, takes, files = record.Files.Length, bytes, audio = record.Audio.Select(a => a.Hash).ToArray(), tracks = record.Audio.Select(a => a.Track).ToArray(), document = record.ToJson() },
            transaction);
        await transaction.CommitAsync();
    }

    /// <summary>Those of a session, the newest first.</summary>
    public async Task<IReadOnlyList<KeptHandoff>> Of(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<KeptHandoff>($"{Heads} where session_id = @sessionId order by number desc", new { sessionId })).AsList();
    }

    /// <summary>How many a session has.</summary>
    public async Task<int> Count(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<int>("select count(*) from handoffs where session_id = @sessionId", new { sessionId });
    }

    /// <summary>One, with what is in it; null if there is none, or it is of a version of the program that is not read here.</summary>
    public async Task<(KeptHandoff Head, HandoffRecord Record)?> Find(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<KeptHandoff>($"{Heads} where id = @id", new { id }) is { } head
            && HandoffRecord.Read(await connection.ExecuteScalarAsync<string?>("select document from handoffs where id = @id", new { id }) ?? "") is { } record
            ? (head, record)
            : null;
    }

    /// <summary>Forgets one; the takes it is of stay.</summary>
    public async Task Delete(long sessionId, long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from handoffs where id = @id and session_id = @sessionId", new { id, sessionId });
    }
}

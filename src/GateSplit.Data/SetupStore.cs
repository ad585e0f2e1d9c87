using System.Security.Cryptography;
using Dapper;
using Npgsql;

namespace GateSplit.Data;

/// <summary>What was ticked off on setup sheets, and under which addresses they are open to a phone.</summary>
/// <param name="database">The database.</param>
public sealed class SetupStore(NpgsqlDataSource database)
{
    private const int TokenBytes = 16;

    /// <summary>The steps of a session that are ticked.</summary>
    public async Task<IReadOnlySet<string>> Ticked(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<string>("select step from setup_ticks where session_id = @sessionId", new { sessionId })).ToHashSet();
    }

    /// <summary>Ticks steps and takes ticks away; a step that is in both is not ticked.</summary>
    /// <returns>False if there is no such session.</returns>
    public async Task<bool> Tick(long sessionId, IReadOnlyCollection<string> on, IReadOnlyCollection<string> off)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.ExecuteScalarAsync<int>("select count(*) from sessions where id = @sessionId", new { sessionId }, transaction) == 0)
        {
            return false;
        }

        await connection.ExecuteAsync(
            """
            insert into setup_ticks (session_id, step) select @sessionId, step from unnest(@on) as step on conflict do nothing;
            delete from setup_ticks where session_id = @sessionId and step = any(@off);
            """,
            new { sessionId, on = on.Distinct().ToArray(), off = off.ToArray() },
            transaction);
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>Takes all ticks of a session away.</summary>
    public async Task Clear(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from setup_ticks where session_id = @sessionId", new { sessionId });
    }

    /// <summary>What stands in the address under which a sheet is open; null if it is not.</summary>
    public async Task<string?> Link(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<string?>("select token from setup_links where session_id = @sessionId", new { sessionId });
    }

    /// <summary>Opens a sheet under an address that nobody can guess; one that is open stays as it is.</summary>
    public async Task OpenLink(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            "insert into setup_links (session_id, token) select id, @token from sessions where id = @sessionId on conflict do nothing",
            new { sessionId, token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(TokenBytes)) });
    }

    /// <summary>Closes it: the address leads nowhere any more.</summary>
    public async Task CloseLink(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from setup_links where session_id = @sessionId", new { sessionId });
    }

    /// <summary>The session whose sheet is open under an address; null if none is.</summary>
    public async Task<long?> Find(string token)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<long?>("select session_id from setup_links where token = @token", new { token });
    }
}

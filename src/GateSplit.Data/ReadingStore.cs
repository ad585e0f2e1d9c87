using Dapper;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Who reads which takes just now, so that nobody deletes them meanwhile. A reader that died is forgotten after a while.</summary>
/// <param name="database">The database.</param>
public sealed class ReadingStore(NpgsqlDataSource database)
{
    private static readonly TimeSpan Lasts = TimeSpan.FromSeconds(30);
    private static readonly TimeSpan Renewed = TimeSpan.FromSeconds(8);

    /// <summary>Does something while a take is kept from being deleted.</summary>
    /// <param name="sessionId">The session.</param>
    /// <param name="takeId">The take; null for the lines that count, of whichever take.</param>
    /// <param name="read">What is done.</param>
    /// <returns>False if the session or the take is gone, and nothing was done.</returns>
    public async Task<bool> While(long sessionId, long? takeId, Func<Task> read)
    {
        if (await Begin(sessionId, takeId) is not { } id)
        {
            return false;
        }

        using var over = new CancellationTokenSource();
        var renewing = Renew(id, over.Token);
        try
        {
            await read();
        }
        finally
        {
            await over.CancelAsync();
            await renewing;
            await Change("delete from readings where id = @id", id);
        }

        return true;
    }

    private async Task<long?> Begin(long sessionId, long? takeId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<long?>(
            """
            delete from readings where until < now();
            insert into readings (session_id, take_id, until)
            select s.id, @takeId, now() + @Lasts from sessions s
            where s.id = @sessionId and (@takeId is null or exists (select 1 from takes t where t.id = @takeId and t.session_id = s.id))
            for key share returning id
            """,
            new { sessionId, takeId, Lasts });
    }

    private async Task Renew(long id, CancellationToken over)
    {
        while (!over.IsCancellationRequested)
        {
            await Task.Delay(Renewed, over).ContinueWith(_ => { }, TaskScheduler.Default);
            if (!over.IsCancellationRequested)
            {
                await Change("update readings set until = now() + @Lasts where id = @id", id);
            }
        }
    }

    /// <summary>A database that is away does not break off the reading.</summary>
    private async Task Change(string sql, long id)
    {
        try
        {
            await using var connection = await database.OpenConnectionAsync();
            await connection.ExecuteAsync(sql, new { id, Lasts });
        }
        catch (NpgsqlException)
        {
            // It ends by itself, after a while.
        }
    }
}

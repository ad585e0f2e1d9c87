using Dapper;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Who reads which takes just now, so that nobody deletes them meanwhile. A reader that died is forgotten after a while.</summary>
/// <param name="database">The database.</param>
public sealed class ReadingStore(NpgsqlDataSource database)
{
    private static readonly TimeSpan Lasts = TimeSpan.FromSeconds(30);
    private static readonly TimeSpan Renewed = TimeSpan.FromSeconds(8);

    /// <summary>Keeps a take from being deleted until the reading is disposed.</summary>
    /// <param name="sessionId">The session.</param>
    /// <param name="takeId">The take; null for the lines that count, of whichever take.</param>
    /// <returns>The reading; null if the session or the take is gone.</returns>
    public async Task<IAsyncDisposable?> Begin(long sessionId, long? takeId)
    {
        await using var connection = await database.OpenConnectionAsync();
        var id = await connection.ExecuteScalarAsync<long?>(
            """
            delete from readings where until < now();
            insert into readings (session_id, take_id, until)
            select s.id, @takeId, now() + @Lasts from sessions s
            where s.id = @sessionId and (@takeId is null or exists (select 1 from takes t where t.id = @takeId and t.session_id = s.id))
            for key share returning id
            """,
            new { sessionId, takeId, Lasts });
        return id is { } begun ? new Reading(this, begun) : null;
    }

    /// <summary>A database that is away does not break off the reading.</summary>
    private async Task Change(string sql, long id)
    {
        try
        {
            await using var connection = await database.OpenConnectionAsync();
            await connection.ExecuteAsync(sql, new { id, Lasts });
        }
        catch (Exception e) when (e is NpgsqlException or ObjectDisposedException)
        {
            // It ends by itself, after a while.
        }
    }

    private sealed class Reading : IAsyncDisposable
    {
        private readonly ReadingStore _store;
        private readonly long _id;
        private readonly CancellationTokenSource _over = new();
        private readonly Task _renewing;

        public Reading(ReadingStore store, long id)
        {
            (_store, _id) = (store, id);
            _renewing = Renew();
        }

        public async ValueTask DisposeAsync()
        {
            await _over.CancelAsync();
            await _renewing;
            _over.Dispose();
            await _store.Change("delete from readings where id = @id", _id);
        }

        private async Task Renew()
        {
            while (!_over.IsCancellationRequested)
            {
                await Task.Delay(Renewed, _over.Token).ContinueWith(_ => { }, TaskScheduler.Default);
                if (!_over.IsCancellationRequested)
                {
                    await _store.Change("update readings set until = now() + @Lasts where id = @id", _id);
                }
            }
        }
    }
}

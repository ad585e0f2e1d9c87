using Dapper;
using GateSplit.Core.Splits;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Which demo sessions were loaded, and how far each of them is.</summary>
/// <param name="database">The database.</param>
/// <param name="sessions">Where the sessions are made.</param>
public sealed class DemoStore(NpgsqlDataSource database, SessionStore sessions)
{
    private const string Loaded = "demo sessions loaded";
    private const long Turn = 0x64656d6f; // "demo": the number of the lock, which no other has
    private const string Progress = "update demo_sessions set steps_done = @StepsDone, revision = @Revision where name = @Name";

    /// <summary>Does something while no other server on the same database does it too; waits until that is so.</summary>
    public async Task InTurn(Func<Task> action, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel); // the lock goes with it, and with a server that is killed
        await connection.ExecuteAsync(
            new CommandDefinition("select pg_advisory_xact_lock(@Turn)", new { Turn }, transaction, commandTimeout: 0, cancellationToken: cancel));
        await action();
    }

    /// <summary>True once all were loaded. Deleted demo sessions stay deleted: a mark, not an empty list, tells it.</summary>
    public async Task<bool> AreLoaded()
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<bool>("select exists (select 1 from marks where name = @Loaded)", new { Loaded });
    }

    /// <summary>Keeps in mind that all were loaded.</summary>
    public async Task MarkLoaded()
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("insert into marks (name) values (@Loaded) on conflict do nothing", new { Loaded });
    }

    /// <summary>Makes one of them, none of its steps done yet.</summary>
    public async Task Add(string name, byte[] song, Split split)
    {
        var id = await sessions.Create(name, song, split);
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("insert into demo_sessions (name, session_id) values (@name, @id)", new { name, id });
    }

    /// <summary>Those that were loaded and not deleted since, in the order in which they were.</summary>
    public async Task<IReadOnlyList<DemoProgress>> All()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<DemoProgress>(
            "select name, session_id, steps_done, revision from demo_sessions order by session_id")).AsList();
    }

    /// <summary>Keeps how far one of them is now.</summary>
    public async Task Save(DemoProgress progress)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(Progress, progress);
    }

    /// <summary>
    /// Keeps an edit that is a step, and that it was done: both or neither, or a server that is killed in between would take its own edit for
    /// somebody's.
    /// </summary>
    /// <param name="progress">How far the session is.</param>
    /// <param name="split">The split after the edit.</param>
    /// <param name="edit">What was done.</param>
    /// <returns>How far it is now; null if somebody has changed the session meanwhile, and nothing was changed.</returns>
    public async Task<DemoProgress?> Save(DemoProgress progress, Split split, string edit)
    {
        var next = progress with { StepsDone = progress.StepsDone + 1 };
        var revision = await sessions.Save(progress.SessionId, progress.Revision, split, edit, summary: null, song: null, (revision, connection, transaction) =>
            connection.ExecuteAsync(Progress, next with { Revision = revision }, transaction));
        return revision is { } kept ? next with { Revision = kept } : null;
    }
}

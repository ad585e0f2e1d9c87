using Dapper;
using Npgsql;

namespace GateSplit.Data;

/// <summary>The jobs and where they stand.</summary>
/// <param name="database">The database.</param>
public sealed class JobStore(NpgsqlDataSource database)
{
    private const string Columns = """
        select id, session_id, kind, state, request, share, sentence, stop_requested, take_id,
               extract(epoch from coalesce(ended_at, now()) - started_at)::double precision as seconds
        from jobs
        """;

    /// <summary>Puts a job into the queue.</summary>
    /// <returns>Its id, or null if the session already has one that waits or runs.</returns>
    public async Task<long?> Create(long sessionId, string kind, string request)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<long?>(
            """
            insert into jobs (session_id, kind, state, request) values (@sessionId, @kind, 'queued', @request::jsonb)
            on conflict (session_id) where state in ('queued', 'running') do nothing
            returning id
            """,
            new { sessionId, kind, request });
    }

    /// <summary>One job; null if there is none.</summary>
    public async Task<Job?> Find(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Job>($"{Columns} where id = @id", new { id });
    }

    /// <summary>The newest job of a session; null if it never had one.</summary>
    public async Task<Job?> Newest(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Job>($"{Columns} where session_id = @sessionId order by id desc limit 1", new { sessionId });
    }

    /// <summary>A worker takes a waiting job.</summary>
    /// <param name="id">The job.</param>
    /// <param name="worker">Names the worker's process.</param>
    /// <returns>False if it does not wait any more.</returns>
    public Task<bool> Start(long id, string worker) => Change(
        "update jobs set state = 'running', worker = @worker, started_at = now(), heartbeat_at = now() where id = @id and state = 'queued'",
        new { id, worker });

    /// <summary>The processes that running jobs belong to.</summary>
    public async Task<IReadOnlyList<string>> Workers()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<string>("select distinct worker from jobs where state = 'running' and worker is not null")).AsList();
    }

    /// <summary>A worker tells how far it is.</summary>
    /// <returns>True if the job is to go on; false if a person wants it to stop.</returns>
    public async Task<bool> Beat(long id, double share)
    {
        await using var connection = await database.OpenConnectionAsync();
        return !await connection.ExecuteScalarAsync<bool>(
            "update jobs set share = @share, heartbeat_at = now() where id = @id returning stop_requested", new { id, share });
    }

    /// <summary>A person wants a job to stop; one that still waits is stopped at once.</summary>
    public Task<bool> RequestStop(long id) => Change(
        """
        update jobs set stop_requested = true,
            state = case when state = 'queued' then 'stopped' else state end,
            ended_at = case when state = 'queued' then now() else ended_at end
        where id = @id and state in ('queued', 'running')
        """,
        new { id });

    /// <summary>Ends a job that made no take.</summary>
    /// <param name="id">The job.</param>
    /// <param name="state">Stopped or failed.</param>
    /// <param name="sentence">What to tell the user.</param>
    public Task<bool> End(long id, string state, string sentence) => Change(
        "update jobs set state = @state, sentence = @sentence, ended_at = now() where id = @id and state in ('queued', 'running')",
        new { id, state, sentence });

    /// <summary>Tells the jobs whose worker is gone as interrupted.</summary>
    /// <param name="silentFor">How long a worker may be silent.</param>
    /// <param name="gone">Workers that are known to be gone, however lately they were heard.</param>
    /// <returns>How many there were.</returns>
    public async Task<int> InterruptAbandoned(TimeSpan silentFor, IReadOnlyList<string> gone)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync(
            """
            update jobs set state = 'interrupted', ended_at = now(),
                sentence = 'The program ended while this ran. Nothing half-written was kept; start it again.'
            where state = 'running' and (heartbeat_at < now() - @silentFor or worker = any(@gone))
            """,
            new { silentFor, gone = gone.ToArray() });
    }

    /// <summary>The ids of jobs that wait or run.</summary>
    public async Task<IReadOnlySet<long>> Active()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<long>("select id from jobs where state in ('queued', 'running')")).ToHashSet();
    }

    /// <summary>What the jobs that wait or run were asked for, as JSON.</summary>
    public async Task<IReadOnlyList<string>> ActiveRequests()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<string>("select request from jobs where state in ('queued', 'running')")).AsList();
    }

    private async Task<bool> Change(string sql, object parameters)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync(sql, parameters) > 0;
    }
}

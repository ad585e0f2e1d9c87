using Dapper;
using Npgsql;

namespace GateSplit.Data;

/// <summary>The jobs and where they stand.</summary>
/// <param name="database">The database.</param>
public sealed class JobStore(NpgsqlDataSource database)
{
    private const string Columns = """
        select id, session_id, kind, state, request, share, sentence, stop_requested, take_id, print_id, pass, tries, levels, created_at,
               extract(epoch from coalesce(ended_at, now()) - started_at)::double precision as seconds
        from jobs
        """;

    /// <summary>Puts a job into the queue.</summary>
    /// <returns>Its id, or null if the session already has one that waits or runs, or is gone.</returns>
    public async Task<long?> Create(long sessionId, string kind, string request) =>
        await Create(sessionId, kind, request, [1], null) is [var id] ? id : null;

    /// <summary>Puts the passes of a print into the queue.</summary>
    /// <param name="sessionId">The session.</param>
    /// <param name="request">What each pass is to record, as JSON.</param>
    /// <param name="passes">The passes, from 1, in order.</param>
    /// <param name="printId">The print whose take they belong to; null for a new one.</param>
    /// <returns>Their ids; none if the session already has a job that waits or runs, or is gone.</returns>
    public Task<IReadOnlyList<long>> CreatePrint(long sessionId, string request, IReadOnlyList<int> passes, long? printId) =>
        Create(sessionId, TakeKind.Print, request, passes, printId);

    private async Task<IReadOnlyList<long>> Create(long sessionId, string kind, string request, IReadOnlyList<int> passes, long? printId)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();

        // Two browsers that press print at once: the second one waits here, and then sees the jobs of the first.
        var there = await connection.ExecuteScalarAsync<int?>("select 1 from sessions where id = @sessionId for update", new { sessionId }, transaction);
        if (there is null || await connection.ExecuteScalarAsync<bool>(
                "select exists (select 1 from jobs where session_id = @sessionId and state in ('queued', 'running') and not beside)", new { sessionId }, transaction))
        {
            return [];
        }

        var ids = new List<long>();
        foreach (var pass in passes)
        {
            ids.Add(await connection.ExecuteScalarAsync<long>(
                "insert into jobs (session_id, kind, state, request, pass) values (@sessionId, @kind, 'queued', @request::jsonb, @pass) returning id",
                new { sessionId, kind, request, pass },
                transaction));
        }

        if (kind == TakeKind.Print)
        {
            await connection.ExecuteAsync(
                "update jobs set print_id = @print where id = any(@ids)", new { print = printId ?? ids[0], ids = ids.ToArray() }, transaction);
        }

        await transaction.CommitAsync();
        return ids;
    }

    /// <summary>Asks for the proof of a take, unless it waits for one already. A proof keeps nobody from printing.</summary>
    public async Task AskProof(long sessionId, long takeId)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into jobs (session_id, kind, state, request)
            select @sessionId, 'proof', 'queued', jsonb_build_object('takeId', @takeId)
            where exists (select 1 from takes where id = @takeId and session_id = @sessionId)
              and not exists (select 1 from jobs where session_id = @sessionId and kind = 'proof' and state = 'queued' and (request->>'takeId')::bigint = @takeId)
            """,
            new { sessionId, takeId });
    }

    /// <summary>Asks for a job that makes no take.</summary>
    /// <param name="sessionId">The session.</param>
    /// <param name="kind">What it does.</param>
    /// <param name="request">What is asked of it, as JSON.</param>
    /// <returns>False if the session is gone, or one of its kind waits or runs already.</returns>
    public async Task<bool> AskBeside(long sessionId, string kind, string request)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("select 1 from sessions where id = @sessionId for update", new { sessionId }, transaction);
        var asked = await connection.ExecuteAsync(
            """
            insert into jobs (session_id, kind, state, request) select id, @kind, 'queued', @request::jsonb from sessions
            where id = @sessionId and not exists (select 1 from jobs where session_id = @sessionId and kind = @kind and state in ('queued', 'running'))
            """,
            new { sessionId, kind, request },
            transaction);
        await transaction.CommitAsync();
        return asked > 0;
    }

    /// <summary>Asks for a job that brings a whole session in.</summary>
    /// <returns>The job.</returns>
    public async Task<long> AskSessionIn(string request)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<long>("insert into jobs (kind, state, request) values ('session-in', 'queued', @request::jsonb) returning id", new { request });
    }

    /// <summary>The newest job of a session of a kind that makes no take; null if there was none.</summary>
    public async Task<Job?> Beside(long sessionId, string kind)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Job>($"{Columns} where session_id = @sessionId and kind = @kind order by id desc limit 1", new { sessionId, kind });
    }

    /// <summary>The newest proof that a take was asked for; null if there was none.</summary>
    public async Task<Job?> ProofOf(long sessionId, long takeId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Job>(
            $"{Columns} where session_id = @sessionId and kind = 'proof' and (request->>'takeId')::bigint = @takeId order by id desc limit 1", new { sessionId, takeId });
    }

    /// <summary>One job; null if there is none.</summary>
    public async Task<Job?> Find(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Job>($"{Columns} where id = @id", new { id });
    }

    /// <summary>The job of a session that runs, or the first one that waits, or else the newest; null if it never had one.</summary>
    public async Task<Job?> Newest(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Job>(
            $"""
            {Columns} where session_id = @sessionId and not beside
            order by case state when 'running' then 0 when 'queued' then 1 else 2 end, case when state = 'queued' then id end, id desc limit 1
            """, new { sessionId });
    }

    /// <summary>The jobs of a session that wait or run, the first one first; and those of its last print or bring-in that ended without a take.</summary>
    public async Task<IReadOnlyList<Job>> Current(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<Job>(
            $"""
            {Columns} where session_id = @sessionId and not beside and (state in ('queued', 'running') or (state <> 'done'
                and coalesce(print_id, id) = (select coalesce(print_id, id) from jobs where session_id = @sessionId and not beside order by id desc limit 1)
                and not exists (select 1 from jobs again where again.print_id = jobs.print_id and again.pass = jobs.pass and again.id > jobs.id)))
            order by id
            """,
            new { sessionId })).AsList();
    }

    /// <summary>
    /// A worker takes the next job that waits: of the session that has the fewest running, and among those of the one that has waited
    /// longest for its turn, so that a session of many passes does not keep the others waiting.
    /// </summary>
    /// <param name="worker">Names the worker's process.</param>
    /// <returns>The job; null if none waits.</returns>
    public async Task<Job?> Claim(string worker)
    {
        await using var connection = await database.OpenConnectionAsync();
        var id = await connection.ExecuteScalarAsync<long?>(
            """
            update jobs set state = 'running', worker = @worker, started_at = now(), heartbeat_at = now()
            where state = 'queued' and id = (
                select next.id from jobs next where next.state = 'queued'
                order by next.kind = 'proof', (select count(*) from jobs other where other.session_id = next.session_id and other.state = 'running'),
                         (select max(other.started_at) from jobs other where other.session_id = next.session_id and other.id <> next.id) nulls first,
                         next.id
                limit 1 for update skip locked)
            returning id
            """,
            new { worker });
        return id is { } claimed ? await connection.QuerySingleAsync<Job>($"{Columns} where id = @claimed", new { claimed }) : null;
    }

    /// <summary>The processes that running jobs belong to.</summary>
    public async Task<IReadOnlyList<string>> Workers()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<string>("select distinct worker from jobs where state = 'running' and worker is not null")).AsList();
    }

    /// <summary>A worker tells how far it is.</summary>
    /// <param name="id">The job.</param>
    /// <param name="worker">The worker.</param>
    /// <param name="share">The share done, 0 to 1.</param>
    /// <param name="levels">Peaks of the tracks just now.</param>
    /// <returns>What the worker is to do; null if the job is no longer its own.</returns>
    public async Task<bool?> Beat(long id, string worker, double share, string levels)
    {
        await using var connection = await database.OpenConnectionAsync();
        var stop = await connection.QuerySingleOrDefaultAsync<bool?>(
            """
            update jobs set share = @share, levels = @levels, heartbeat_at = now()
            where id = @id and worker = @worker and state = 'running' returning stop_requested
            """,
            new { id, worker, share, levels });
        return stop is null ? null : !stop;
    }

    /// <summary>A person wants a job to stop, and the passes of its print after it; those that still wait are stopped at once.</summary>
    public Task<bool> RequestStop(long id) => Change(
        """
        update jobs set stop_requested = true,
            state = case when state = 'queued' then 'stopped' else state end,
            sentence = case when state = 'queued' then 'Stopped before it began.' else sentence end,
            ended_at = case when state = 'queued' then now() else ended_at end
        where state in ('queued', 'running') and (id = @id or (print_id = (select print_id from jobs where id = @id) and id > @id))
        """,
        new { id });

    /// <summary>Gives the passes of workers that are gone back to the queue; a pass that ended four workers is not tried again.</summary>
    /// <returns>The passes that wait again.</returns>
    public async Task<IReadOnlyList<long>> TakeOver(TimeSpan silentFor, IReadOnlyList<string> gone)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<long>(
            """
            update jobs set state = 'queued', worker = null, share = 0, levels = '', tries = tries + 1
            where state = 'running' and kind = 'print' and tries < 5 and not stop_requested
              and (heartbeat_at < now() - @silentFor or worker = any(@gone))
            returning id
            """,
            new { silentFor, gone = gone.ToArray() })).AsList();
    }

    /// <summary>Ends a job that made no take.</summary>
    /// <param name="id">The job.</param>
    /// <param name="state">Done, stopped or failed.</param>
    /// <param name="sentence">What to tell the user.</param>
    /// <param name="worker">The worker that ends it; if another one has it by now, nothing is changed.</param>
    public Task<bool> End(long id, string state, string sentence, string worker) => Change(
        "update jobs set state = @state, sentence = @sentence, ended_at = now() where id = @id and state = 'running' and worker = @worker",
        new { id, state, sentence, worker });

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

    /// <summary>The jobs that wait or run, each with the number of its try.</summary>
    public async Task<IReadOnlyDictionary<long, int>> Active()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<(long Id, int Tries)>("select id, tries from jobs where state in ('queued', 'running')")).ToDictionary(j => j.Id, j => j.Tries);
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

using Dapper;
using Npgsql;

namespace GateSplit.Data;

/// <summary>
/// Removes files from the audio store, and only those that no row names any more: no take, no overview of another take's file, and no job
/// that has taken them in and is about to keep them.
/// </summary>
/// <param name="database">The database.</param>
/// <param name="store">The audio store.</param>
public sealed class AudioKeeper(NpgsqlDataSource database, IAudioStore store)
{
    private const int FilesAtOnce = 1000;

    /// <summary>Deletes a take with the files that nothing else needs.</summary>
    /// <returns>A sentence if it cannot be deleted now; null if it is gone.</returns>
    public Task<string?> DeleteTake(long id) => Delete(
        "select session_id from takes where id = @id",
        """
        select case
            when exists (select 1 from jobs j join takes t on t.print_id = j.print_id where t.id = @id and j.state in ('queued', 'running'))
                then 'This take is still being recorded. Stop the print or wait for its end, then delete the take.'
            when exists (select 1 from jobs where kind = 'proof' and state = 'running' and (request->>'takeId')::bigint = @id)
                then 'This take is being proved. Stop that on its page or wait for its end, then delete the take.'
            when exists (select 1 from readings r join takes t on t.session_id = r.session_id where t.id = @id and coalesce(r.take_id, t.id) = t.id and r.until > now())
                then 'A zip with this take is being downloaded. Wait for its end, then delete the take.'
            end
        """,
        "delete from takes where id = @id",
        id);

    /// <summary>Deletes a session with its revisions, takes and jobs, and the files that nothing else needs.</summary>
    /// <returns>A sentence if it cannot be deleted now; null if it is gone.</returns>
    public Task<string?> DeleteSession(long id) => Delete(
        "select @id",
        """
        select case
            when exists (select 1 from jobs where session_id = @id and state in ('queued', 'running') and kind = 'print')
                then 'This session is printing. Stop the print or wait for its end, then delete the session.'
            when exists (select 1 from jobs where session_id = @id and state = 'running' and kind = 'proof')
                then 'A take of this session is being proved. Stop that on its page or wait for its end, then delete the session.'
            when exists (select 1 from jobs where session_id = @id and state = 'running' and kind = 'roll-call')
                then 'A roll call of this session is being read. Stop that on its page or wait for its end, then delete the session.'
            when exists (select 1 from jobs where session_id = @id and state in ('queued', 'running') and kind = 'bring-in')
                then 'Recordings are being brought into this session. Stop that or wait for its end, then delete the session.'
            when exists (select 1 from readings where session_id = @id and until > now())
                then 'A zip of this session is being downloaded. Wait for its end, then delete the session.'
            end
        """,
        "delete from sessions where id = @id",
        id);

    /// <summary>A job is about to take files in: until it has kept them or ended, nobody removes them.</summary>
    /// <param name="job">The job.</param>
    /// <param name="hashes">Files and overviews.</param>
    public async Task Hold(Job job, string[] hashes)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await StoreLock.Share(connection, transaction);
        await connection.ExecuteAsync(
            "insert into held_files (hash, job_id, tries) select distinct h, @Id, @Tries from unnest(@hashes) h on conflict do nothing",
            new { hashes, job.Id, job.Tries },
            transaction);
        await transaction.CommitAsync();
    }

    /// <summary>A try of a job has ended without keeping what it took in.</summary>
    public async Task LetGo(Job job)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var alone = await StoreLock.Alone(connection);
        var hashes = await connection.QueryAsync<string>("delete from held_files where job_id = @Id and tries = @Tries returning hash", job);
        await Remove(connection, [.. hashes]);
    }

    /// <summary>Compares store and database both ways: removes files that no row names, and tells of rows whose file is gone.</summary>
    /// <param name="before">Only files that are older: what is just being taken in may not be named yet.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task<Sweep> Sweep(DateTime before, CancellationToken cancel = default)
    {
        var removed = 0;
        await using var connection = await database.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            "delete from held_files h where not exists (select 1 from jobs j where j.id = h.job_id and j.tries = h.tries and j.state in ('queued', 'running'))");
        foreach (var hashes in store.Files(before).Chunk(FilesAtOnce))
        {
            cancel.ThrowIfCancellationRequested();
            await using var alone = await StoreLock.Alone(connection);
            removed += await Remove(connection, hashes);
        }

        // An overview that is gone is made anew by whoever wants to see it.
        var rows = await connection.QueryAsync<string>("select hash from audio_files order by hash");
        return new Sweep(removed, [.. rows.Where(h => store.Find(h) is null)]);
    }

    private async Task<string?> Delete(string session, string refusal, string delete, long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var alone = await StoreLock.Alone(connection);
        IEnumerable<string> hashes;
        await using (var transaction = await connection.BeginTransactionAsync())
        {
            // Whoever wants to begin a job or a zip waits for the row of the session.
            await connection.ExecuteAsync($"select 1 from sessions where id = ({session}) for update", new { id }, transaction);
            if (await connection.ExecuteScalarAsync<string?>(refusal, new { id }, transaction) is { } sentence)
            {
                return sentence;
            }

            await connection.ExecuteAsync(delete, new { id }, transaction);
            var files = await connection.QueryAsync<(string Hash, string Overview)>(
                "delete from audio_files a where not exists (select 1 from take_tracks t where t.hash = a.hash) returning a.hash, a.overview_hash", transaction: transaction);
            hashes = files.SelectMany(f => new[] { f.Hash, f.Overview }).Distinct().ToArray();
            await transaction.CommitAsync();
        }

        await Remove(connection, [.. hashes]);
        return null;
    }

    /// <summary>Removes those of some files that no row names; the lock is held.</summary>
    private async Task<int> Remove(NpgsqlConnection connection, string[] hashes)
    {
        var unnamed = (await connection.QueryAsync<string>(
            """
            select h from unnest(@hashes) h
            where not exists (select 1 from audio_files a where a.hash = h)
              and not exists (select 1 from audio_files a where a.overview_hash = h)
              and not exists (select 1 from held_files f where f.hash = h)
            """,
            new { hashes })).AsList();
        foreach (var hash in unnamed)
        {
            store.Remove(hash);
        }

        return unnamed.Count;
    }
}

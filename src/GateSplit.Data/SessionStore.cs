using Dapper;
using GateSplit.Core.Splits;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Sessions and the revisions of their splits.</summary>
/// <param name="database">The database.</param>
public sealed class SessionStore(NpgsqlDataSource database)
{
    private const string Summaries = """
        select s.id, s.name, s.revision, s.updated_at,
               (select count(*) from takes t where t.session_id = s.id) as takes,
               coalesce((select sum(a.bytes)::bigint from audio_files a where a.hash in
                   (select tt.hash from take_tracks tt join takes t on t.id = tt.take_id where t.session_id = s.id)), 0) as audio_bytes
        from sessions s
        """;

    /// <summary>All sessions, the one changed last first.</summary>
    public async Task<IReadOnlyList<SessionSummary>> List()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<SessionSummary>($"{Summaries} order by s.updated_at desc, s.id desc")).AsList();
    }

    /// <summary>One row of the list; null if there is no such session.</summary>
    public async Task<SessionSummary?> Summary(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<SessionSummary>($"{Summaries} where s.id = @id", new { id });
    }

    /// <summary>Name, revision, and what undo and redo would do; null if there is no such session.</summary>
    public async Task<SessionHead?> Head(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<SessionHead>(
            """
            select s.name, s.revision,
                   case when r.parent is null then null else r.edit end as undo,
                   (select n.edit from split_revisions n where n.session_id = s.id and n.revision = r.redo) as redo
            from sessions s join split_revisions r on r.session_id = s.id and r.revision = s.revision
            where s.id = @id
            """,
            new { id });
    }

    /// <summary>A session as it is now; null if there is none.</summary>
    public async Task<SessionState?> Load(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        var row = await connection.QuerySingleOrDefaultAsync<Row>(
            """
            select s.id, s.name, s.song, s.revision, r.document, r.format,
                   case when r.parent is null then null else r.edit end as undo,
                   (select n.edit from split_revisions n where n.session_id = s.id and n.revision = r.redo) as redo
            from sessions s join split_revisions r on r.session_id = s.id and r.revision = s.revision
            where s.id = @id
            """,
            new { id });
        return row?.ToState();
    }

    /// <summary>A session as it was at a revision; null if there is none.</summary>
    public async Task<SessionState?> Load(long id, int revision)
    {
        await using var connection = await database.OpenConnectionAsync();
        var row = await connection.QuerySingleOrDefaultAsync<Row>(
            """
            select s.id, s.name, s.song, r.revision, r.document, r.format, null::text as undo, null::text as redo
            from sessions s join split_revisions r on r.session_id = s.id and r.revision = @revision
            where s.id = @id
            """,
            new { id, revision });
        return row?.ToState();
    }

    /// <summary>Makes a session with its first revision and gives its id.</summary>
    public async Task<long> Create(string name, byte[] song, Split split)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var id = await connection.ExecuteScalarAsync<long>(
            "insert into sessions (name, song, revision) values (@name, @song, 1) returning id", new { name, song }, transaction);
        await connection.ExecuteAsync(
            "insert into split_revisions (session_id, revision, edit, document, format) values (@id, 1, 'New session', @document::jsonb, @format)",
            new { id, document = SplitJson.Write(split), format = SplitVersions.Current },
            transaction);
        await transaction.CommitAsync();
        return id;
    }

    /// <summary>Gives a session another name.</summary>
    public async Task Rename(long id, string name)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("update sessions set name = @name, updated_at = now() where id = @id", new { id, name });
    }

    /// <summary>Deletes a session with its revisions, takes and jobs, and gives the audio files that nothing uses any more.</summary>
    /// <returns>Hashes of audio and overviews to be removed from the store.</returns>
    public async Task<IReadOnlyList<string>> Delete(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("delete from sessions where id = @id", new { id }, transaction);
        var orphans = await AudioOrphans.Forget(connection, transaction);
        await transaction.CommitAsync();
        return orphans;
    }

    /// <summary>Keeps a new revision, if the session is still at the one it was made from (compare and swap).</summary>
    /// <param name="id">The session.</param>
    /// <param name="expected">The revision the edit was made from.</param>
    /// <param name="split">The split after the edit.</param>
    /// <param name="edit">What was done.</param>
    /// <returns>True if kept; false if the session has moved on meanwhile or is gone, and nothing was changed.</returns>
    public Task<bool> Save(long id, int expected, Split split, string edit) => Swap(id, expected, async (connection, transaction) =>
    {
        var revision = await connection.ExecuteScalarAsync<int>(
            "select max(revision) + 1 from split_revisions where session_id = @id", new { id }, transaction);
        await connection.ExecuteAsync(
            """
            update split_revisions set redo = null where session_id = @id and revision = @expected;
            insert into split_revisions (session_id, revision, parent, edit, document, format)
            values (@id, @revision, @expected, @edit, @document::jsonb, @format);
            """,
            new { id, revision, expected, edit, document = SplitJson.Write(split), format = SplitVersions.Current },
            transaction);
        return revision;
    });

    /// <summary>Takes the last edit back.</summary>
    /// <returns>False if the session has moved on or there is nothing to undo.</returns>
    public Task<bool> Undo(long id, int expected) => Swap(id, expected, async (connection, transaction) =>
    {
        var parent = await connection.ExecuteScalarAsync<int?>(
            "select parent from split_revisions where session_id = @id and revision = @expected", new { id, expected }, transaction);
        if (parent is not null)
        {
            await connection.ExecuteAsync(
                "update split_revisions set redo = @expected where session_id = @id and revision = @parent", new { id, expected, parent }, transaction);
        }

        return parent;
    });

    /// <summary>Makes the edit again that was taken back last.</summary>
    /// <returns>False if the session has moved on or there is nothing to redo.</returns>
    public Task<bool> Redo(long id, int expected) => Swap(id, expected, (connection, transaction) =>
        connection.ExecuteScalarAsync<int?>(
            "select redo from split_revisions where session_id = @id and revision = @expected", new { id, expected }, transaction));

    /// <summary>The edits that led to the split as it is, the newest first.</summary>
    /// <param name="id">The session.</param>
    /// <param name="most">No more than so many.</param>
    public async Task<IReadOnlyList<Revision>> History(long id, int most = 200)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<Revision>(
            """
            with recursive way as (
                select r.revision, r.parent, r.edit, r.created_at, 1 as step
                from split_revisions r join sessions s on s.id = r.session_id and s.revision = r.revision
                where r.session_id = @id
                union all
                select r.revision, r.parent, r.edit, r.created_at, way.step + 1
                from way join split_revisions r on r.session_id = @id and r.revision = way.parent
                where way.step < @most
            )
            select revision as number, edit, created_at from way order by step
            """,
            new { id, most })).AsList();
    }

    /// <summary>Goes back to an earlier revision, by as many undos as it takes; each can be done again.</summary>
    /// <returns>False if the session has moved on or the revision does not lie on the way that led here.</returns>
    public async Task<bool> GoBack(long id, int expected, int revision)
    {
        var way = (await History(id, int.MaxValue)).Select(r => r.Number).TakeWhile(n => n != revision).ToList();
        if (way.Count == 0 || way[0] != expected)
        {
            return false;
        }

        foreach (var step in way)
        {
            if (!await Undo(id, step))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Moves a session to another revision while its row is held.</summary>
    private async Task<bool> Swap(long id, int expected, Func<NpgsqlConnection, NpgsqlTransaction, Task<int?>> next)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var held = await connection.ExecuteScalarAsync<int?>(
            "select revision from sessions where id = @id and revision = @expected for update", new { id, expected }, transaction);
        if (held is null || await next(connection, transaction) is not { } revision)
        {
            return false;
        }

        await connection.ExecuteAsync(
            "update sessions set revision = @revision, updated_at = now() where id = @id", new { id, revision }, transaction);
        await transaction.CommitAsync();
        return true;
    }

    private Task<bool> Swap(long id, int expected, Func<NpgsqlConnection, NpgsqlTransaction, Task<int>> next) =>
        Swap(id, expected, async (connection, transaction) => (int?)await next(connection, transaction));

    private sealed record Row(long Id, string Name, byte[] Song, int Revision, string Document, int Format, string? Undo, string? Redo)
    {
        /// <exception cref="UnreadableException">The document is of a newer version, or was damaged.</exception>
        public SessionState ToState() => SplitVersions.Read(Document, Format) is { Ok: true } split
            ? new SessionState(Id, Name, Song, Revision, split.Value, Undo, Redo)
            : throw new UnreadableException($"The session {Name} cannot be read (session {Id}, revision {Revision}). {SplitVersions.Read(Document, Format).Trouble}");
    }
}

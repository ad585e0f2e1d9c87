using Dapper;
using GateSplit.Core.Splits;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Sessions and the revisions of their splits.</summary>
/// <param name="database">The database.</param>
public sealed class SessionStore(NpgsqlDataSource database)
{
    /// <summary>The history is thinned after so many edits.</summary>
    private const int Thinning = 50;

    private const string Found = """
        select s.id, s.name, s.revision, s.updated_at from sessions s
        where @like is null or s.name ilike @like
           or exists (select 1 from split_revisions r where r.session_id = s.id and r.revision = s.revision and r.sources ilike @like)
        """;

    /// <summary>Sessions, the one changed last first.</summary>
    /// <param name="search">Words in the name or among the sources; empty for all.</param>
    /// <param name="from">Rows to pass over.</param>
    /// <param name="most">No more than so many.</param>
    public async Task<IReadOnlyList<SessionSummary>> List(string search = "", int from = 0, int most = int.MaxValue)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<SessionSummary>(
            $"""
            select s.id, s.name, s.revision, s.updated_at, coalesce(r.sources, '') as sources, coalesce(r.tracks, 0) as tracks, coalesce(r.to_mend, 0) as to_mend,
                   r.looked_by is not distinct from @By as is_known,
                   (select count(*) from takes t where t.session_id = s.id) as takes,
                   coalesce((select sum(a.bytes)::bigint from audio_files a where a.hash in
                       (select tt.hash from take_tracks tt join takes t on t.id = tt.take_id where t.session_id = s.id)), 0) as audio_bytes
            from ({Found} order by s.updated_at desc, s.id desc offset @from limit @most) s
            join split_revisions r on r.session_id = s.id and r.revision = s.revision
            order by s.updated_at desc, s.id desc
            """,
            new { like = Like(search), from, most, SplitSummary.By })).AsList();
    }

    /// <summary>How many sessions a search finds.</summary>
    public async Task<int> Count(string search = "")
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<int>($"select count(*) from ({Found}) s", new { like = Like(search) });
    }

    /// <summary>Keeps what the list shows of a revision.</summary>
    public async Task Summarise(long id, int revision, SplitSummary summary)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            "update split_revisions set sources = @Sources, tracks = @Tracks, to_mend = @ToMend, looked_by = @By where session_id = @id and revision = @revision",
            new { id, revision, summary.Sources, summary.Tracks, summary.ToMend, SplitSummary.By });
    }

    /// <summary>Name, revision, and what undo and redo would do; null if there is no such session.</summary>
    public async Task<SessionHead?> Head(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<SessionHead>(
            $"""
            select s.name, s.revision,
                   case when r.parent is null then null else {Label("r")} end as undo,
                   (select {Label("n")} from split_revisions n where n.session_id = s.id and n.revision = r.redo) as redo
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
            $"""
            select s.id, s.name, g.midi as song, g.id as song_id, s.revision, r.document, r.format,
                   case when r.parent is null then null else {Label("r")} end as undo,
                   (select {Label("n")} from split_revisions n where n.session_id = s.id and n.revision = r.redo) as redo
            from sessions s join split_revisions r on r.session_id = s.id and r.revision = s.revision join songs g on g.id = r.song_id
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
            select s.id, s.name, g.midi as song, g.id as song_id, r.revision, r.document, r.format, null::text as undo, null::text as redo
            from sessions s join split_revisions r on r.session_id = s.id and r.revision = @revision join songs g on g.id = r.song_id
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
            "insert into sessions (name, revision) values (@name, 1) returning id", new { name }, transaction);
        await connection.ExecuteAsync(
            """
            with song as (insert into songs (session_id, midi) values (@id, @song) returning id)
            insert into split_revisions (session_id, revision, edit, document, format, song_id)
            select @id, 1, 'New session', @document::jsonb, @format, song.id from song
            """,
            new { id, song, document = SplitJson.Write(split), format = SplitVersions.Current },
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

    /// <summary>Keeps a new revision, if the session is still at the one it was made from (compare and swap).</summary>
    /// <param name="id">The session.</param>
    /// <param name="expected">The revision the edit was made from.</param>
    /// <param name="split">The split after the edit.</param>
    /// <param name="edit">What was done.</param>
    /// <param name="summary">What the list shows of it; null to find out when it is shown.</param>
    /// <param name="song">The MIDI file that takes the place of the song; null to keep it.</param>
    /// <returns>The new revision; null if the session has moved on meanwhile or is gone, and nothing was changed.</returns>
    public Task<int?> Save(long id, int expected, Split split, string edit, SplitSummary? summary = null, byte[]? song = null) =>
        Save(id, expected, split, edit, summary, song, (_, _, _) => Task.CompletedTask);

    /// <summary>Keeps a new revision as the other does, and something else with it: both or neither.</summary>
    internal Task<int?> Save(
        long id, int expected, Split split, string edit, SplitSummary? summary, byte[]? song, Func<int, NpgsqlConnection, NpgsqlTransaction, Task> also) =>
        Swap(id, expected, async (connection, transaction) =>
    {
        var revision = await connection.ExecuteScalarAsync<int>(
            "select max(revision) + 1 from split_revisions where session_id = @id", new { id }, transaction);
        await connection.ExecuteAsync(
            """
            update split_revisions set redo = null where session_id = @id and revision = @expected;
            with song as (insert into songs (session_id, midi) select @id, @song where @song::bytea is not null returning id)
            insert into split_revisions (session_id, revision, parent, edit, document, format, sources, tracks, to_mend, looked_by, song_id)
            values (@id, @revision, @expected, @edit, @document::jsonb, @format, @Sources, @Tracks, @ToMend, @by,
                    coalesce((select song.id from song), (select r.song_id from split_revisions r where r.session_id = @id and r.revision = @expected)));
            """,
            new
            {
                id,
                revision,
                expected,
                edit,
                song,
                document = SplitJson.Write(split),
                format = SplitVersions.Current,
                summary?.Sources,
                summary?.Tracks,
                summary?.ToMend,
                by = summary is null ? null : SplitSummary.By,
            },
            transaction);
        if (revision % Thinning == 0)
        {
            await Thin(connection, transaction, id, revision);
        }

        await also(revision, connection, transaction);
        return revision;
    });

    /// <summary>Gives a revision a name, under which it is found and for which it stays; an empty one takes it away.</summary>
    /// <returns>False if there is no such revision any more.</returns>
    public async Task<bool> NameRevision(long id, int revision, string name)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("update split_revisions set name = @name where session_id = @id and revision = @revision", new { id, revision, name }) > 0;
    }

    /// <summary>Takes the last edit back.</summary>
    /// <returns>False if the session has moved on or there is nothing to undo.</returns>
    public async Task<bool> Undo(long id, int expected) => await Swap(id, expected, async (connection, transaction) =>
    {
        var parent = await connection.ExecuteScalarAsync<int?>(
            "select parent from split_revisions where session_id = @id and revision = @expected", new { id, expected }, transaction);
        if (parent is not null)
        {
            await connection.ExecuteAsync(
                "update split_revisions set redo = @expected where session_id = @id and revision = @parent", new { id, expected, parent }, transaction);
        }

        return parent;
    }) is not null;

    /// <summary>Makes the edit again that was taken back last.</summary>
    /// <returns>False if the session has moved on or there is nothing to redo.</returns>
    public async Task<bool> Redo(long id, int expected) => await Swap(id, expected, (connection, transaction) =>
        connection.ExecuteScalarAsync<int?>(
            "select redo from split_revisions where session_id = @id and revision = @expected", new { id, expected }, transaction)) is not null;

    /// <summary>The edits that led to the split as it is, the newest first.</summary>
    /// <param name="id">The session.</param>
    /// <param name="most">No more than so many.</param>
    public async Task<IReadOnlyList<Revision>> History(long id, int most = 200)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<Revision>(
            $"""
            with recursive way as (
                select r.revision, r.parent, r.edit, r.steps, r.name, r.created_at, 1 as step
                from split_revisions r join sessions s on s.id = r.session_id and s.revision = r.revision
                where r.session_id = @id
                union all
                select r.revision, r.parent, r.edit, r.steps, r.name, r.created_at, way.step + 1
                from way join split_revisions r on r.session_id = @id and r.revision = way.parent
                where way.step < @most
            )
            select revision as number, {Label("way")} as edit, name, created_at from way order by step
            """,
            new { id, most })).AsList();
    }

    /// <summary>Goes back to an earlier revision, by as many undos as it takes, all of them or none; each can be done again.</summary>
    /// <returns>False if the session has moved on or the revision does not lie on the way that led here.</returns>
    public async Task<bool> GoBack(long id, int expected, int revision) => await Swap(id, expected, async (connection, transaction) =>
    {
        var steps = await connection.ExecuteAsync(
            """
            with recursive way as (
                select revision, parent from split_revisions where session_id = @id and revision = @expected
                union all
                select r.revision, r.parent from way join split_revisions r on r.session_id = @id and r.revision = way.parent
                where way.revision <> @revision
            )
            update split_revisions back set redo = way.revision
            from way where back.session_id = @id and back.revision = way.parent and way.revision <> @revision
              and exists (select 1 from way there where there.revision = @revision)
            """,
            new { id, expected, revision },
            transaction);
        return steps > 0 ? revision : null;
    }) is not null;

    private static async Task Thin(NpgsqlConnection connection, NpgsqlTransaction transaction, long id, int current)
    {
        var rows = await connection.QueryAsync<HistoryRule.Row>(
            """
            select r.revision as number, r.parent, r.steps,
                   r.name <> ''
                   or exists (select 1 from takes t where t.session_id = @id and t.revision = r.revision)
                   or exists (select 1 from demo_sessions d where d.session_id = @id and d.revision = r.revision)
                   or exists (select 1 from jobs j where j.session_id = @id and (j.request ->> 'revision')::integer = r.revision) as is_needed
            from split_revisions r where r.session_id = @id
            """,
            new { id },
            transaction);
        var (gone, changed) = HistoryRule.Thin(rows.AsList(), current);
        if (gone.Count == 0)
        {
            return;
        }

        await connection.ExecuteAsync(
            """
            update split_revisions r set parent = c.parent, steps = c.steps
            from unnest(@numbers, @parents, @steps) as c (revision, parent, steps) where r.session_id = @id and r.revision = c.revision;
            update split_revisions set redo = null where session_id = @id and redo = any(@gone);
            delete from split_revisions where session_id = @id and revision = any(@gone);
            delete from songs g where g.session_id = @id and not exists (select 1 from split_revisions r where r.session_id = @id and r.song_id = g.id);
            """,
            new
            {
                id,
                gone = gone.ToArray(),
                numbers = changed.Select(c => c.Number).ToArray(),
                parents = changed.Select(c => c.Parent).ToArray(),
                steps = changed.Select(c => c.Steps).ToArray(),
            },
            transaction);
    }

    /// <summary>What an edit did, and that it stands for others.</summary>
    private static string Label(string row) =>
        $"{row}.edit || case when {row}.steps > 1 then ' and ' || ({row}.steps - 1) || case when {row}.steps = 2 then ' edit before it' else ' edits before it' end else '' end";

    /// <summary>Moves a session to another revision while its row is held.</summary>
    /// <returns>The revision it is at now; null if nothing was changed.</returns>
    private async Task<int?> Swap(long id, int expected, Func<NpgsqlConnection, NpgsqlTransaction, Task<int?>> next)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var held = await connection.ExecuteScalarAsync<int?>(
            "select revision from sessions where id = @id and revision = @expected for update", new { id, expected }, transaction);
        if (held is null || await next(connection, transaction) is not { } revision)
        {
            return null;
        }

        await connection.ExecuteAsync(
            "update sessions set revision = @revision, updated_at = now() where id = @id", new { id, revision }, transaction);
        await transaction.CommitAsync();
        return revision;
    }

    /// <summary>Words as they are, wherever they stand.</summary>
    private static string? Like(string search) =>
        search.Trim() is { Length: > 0 } words ? $"%{words.Replace("\\", "\\\\").Replace("%", "\\%").Replace("_", "\\_")}%" : null;

    private sealed record Row(long Id, string Name, byte[] Song, long SongId, int Revision, string Document, int Format, string? Undo, string? Redo)
    {
        /// <exception cref="UnreadableException">The document is of a newer version, or was damaged.</exception>
        public SessionState ToState() => SplitVersions.Read(Document, Format) is { Ok: true } split
            ? new SessionState(Id, Name, Song, SongId, Revision, split.Value, Undo, Redo)
            : throw new UnreadableException($"The session {Name} cannot be read (session {Id}, revision {Revision}). {SplitVersions.Read(Document, Format).Trouble}");
    }
}

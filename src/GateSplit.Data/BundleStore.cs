using System.Collections.Immutable;
using System.Data;
using System.Text;
using Dapper;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Handoff;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Whole sessions, out and in.</summary>
/// <param name="database">The database.</param>
/// <param name="charts">The shelf.</param>
public sealed class BundleStore(NpgsqlDataSource database, ChartStore charts)
{
    /// <summary>A whole session as it leaves; null if there is none.</summary>
    /// <exception cref="UnreadableException">A split of it cannot be read.</exception>
    public async Task<BundleWriter?> Find(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();

        // Whatever is changed meanwhile: what leaves was so at one time.
        await using var snapshot = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead);
        var id = new { sessionId };
        if (await connection.QuerySingleOrDefaultAsync<(string Name, int Revision)?>("select name, revision from sessions where id = @sessionId", id, snapshot) is not var (name, current))
        {
            return null;
        }

        var documents = new List<HandoffPaper>();
        var revisions = (await Revisions(connection, snapshot, sessionId)).ToDictionary(r => r.Number);
        var bundled = ImmutableArray.CreateBuilder<BundledRevision>();
        Split? split = null;
        foreach (var row in revisions.Values.Where(r => r.IsNeeded).OrderByDescending(r => r.Number == current).ThenBy(r => r.Number))
        {
            var read = SplitVersions.Read(row.Document!, row.Format);
            if (!read.Ok)
            {
                throw new UnreadableException($"The session {name} cannot be read (session {sessionId}, revision {row.Number}). {read.Trouble}");
            }

            split ??= read.Value;
            var file = row.Number == current ? "session.json" : $"revisions/{row.Number}.json";
            documents.Add(new(file, SessionFile.Of(name, row.Song!, read.Value).ToJson()));
            bundled.Add(row.Bundled(revisions, file));
        }

        var takes = await Takes(connection, snapshot, sessionId, documents);

        // The split of a take that is as old as the history goes is that which there is.
        takes = [.. takes.Select(t => bundled.Any(r => r.Number == t.Take.Revision) ? t : (t.Take with { Revision = current }, t.Audio))];
        var own = await Charts(split!, documents);
        var choices = await connection.QueryAsync<BundledChoice>(
            "select c.track_id, t.number as take from line_choices c join takes t on t.id = c.take_id where c.session_id = @sessionId order by c.track_id", id, snapshot);
        var calls = await connection.QueryAsync<(int Pass, DateTime MadeAt, bool ByHand, string[] Files, string Body)>(
            "select pass, made_at, by_hand, files, body::text from roll_calls where session_id = @sessionId order by pass", id, snapshot);
        var session = new SessionBundle(
            name,
            current,
            bundled.ToImmutable(),
            [.. takes.Select(t => t.Take)],
            [.. choices],
            [.. from call in calls let reading = ProofJson.ReadRollCall(call.Body) where reading is not null select new BundledRollCall(call.Pass, call.MadeAt, call.ByHand, [.. call.Files], reading)],
            own);
        return new BundleWriter(session, documents, [.. takes.SelectMany(t => t.Audio)]);
    }

    /// <summary>Keeps a whole session, or nothing of it; ends its job in the same transaction, and puts the charts that came with it on the shelf.</summary>
    /// <param name="arriving">The session; its files are in the audio store.</param>
    /// <param name="jobId">The job that brought it in.</param>
    /// <returns>The session's id, and its takes in their order.</returns>
    public async Task<(long SessionId, IReadOnlyList<long> Takes)> Keep(ArrivingSession arriving, long jobId)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await StoreLock.Share(connection, transaction);

        // A job that was cut off from the database after its commit asks again; it gets the session it already has.
        if (await connection.ExecuteScalarAsync<long?>("select session_id from jobs where id = @jobId for update", new { jobId }, transaction) is { } already)
        {
            return (already, (await connection.QueryAsync<long>("select id from takes where session_id = @already order by number", new { already }, transaction)).AsList());
        }

        var session = arriving.Session;
        var id = await connection.ExecuteScalarAsync<long>("insert into sessions (name, revision) values (@Name, @Revision) returning id", session, transaction);
        await KeepRevisions(connection, transaction, id, arriving);

        // Two who keep the same files wait for each other in one order only.
        foreach (var track in arriving.Tracks.Values.SelectMany(t => t).OrderBy(t => t.Hash, StringComparer.Ordinal))
        {
            await TakeStore.KeepFile(connection, transaction, track);
        }

        var takes = new List<long>();
        foreach (var take in session.Takes.OrderBy(t => t.Number))
        {
            takes.Add(await KeepTake(connection, transaction, id, take, arriving));
        }

        await connection.ExecuteAsync(
            "insert into line_choices (session_id, track_id, take_id) select @id, @TrackId, t.id from takes t where t.session_id = @id and t.number = @Take",
            session.Choices.Select(c => new { id, c.TrackId, c.Take }),
            transaction);
        await connection.ExecuteAsync(
            "insert into roll_calls (session_id, pass, made_at, by_hand, files, body) values (@id, @Pass, @Made, @ByHand, @Files, @body::jsonb)",
            session.RollCalls.Select(c => new { id, c.Pass, c.Made, c.ByHand, Files = c.Files.ToArray(), body = ProofJson.Write(c.Reading) }),
            transaction);

        // Whoever sees that it is done sees what is told of it. The shelf comes last: a chart of a session that was not kept after all harms nobody.
        var told = string.Join(" ", await Shelve(arriving.Charts));
        await connection.ExecuteAsync(
            "update jobs set state = 'done', share = 1, session_id = @id, ended_at = now(), sentence = @told where id = @jobId; delete from held_files where job_id = @jobId",
            new { id, jobId, told },
            transaction);
        await transaction.CommitAsync();
        return (id, takes);
    }

    /// <summary>Puts the charts that came with a session on the shelf, where there is none of their id yet.</summary>
    /// <returns>A sentence for each that is new there, or not the same.</returns>
    private async Task<IReadOnlyList<string>> Shelve(IEnumerable<Chart> arrived)
    {
        var told = new List<string>();
        foreach (var chart in arrived)
        {
            if (await charts.Find(chart.Id) is { } there)
            {
                if (ChartJson.Write(there) != ChartJson.Write(chart))
                {
                    told.Add($"The shelf has another chart with the id {chart.Id}, which stays; the session has its own copy of {chart.Name}.");
                }
            }
            else
            {
                told.Add(await charts.Add(chart) is { } refusal ? $"The chart {chart.Name} is not on the shelf: {refusal}" : $"The chart {chart.Name} came with it and is on the shelf now.");
            }
        }

        return told;
    }

    private static async Task<IReadOnlyList<RevisionRow>> Revisions(NpgsqlConnection connection, NpgsqlTransaction snapshot, long sessionId) =>
        (await connection.QueryAsync<RevisionRow>(
            """
            select r.number, r.parent, r.steps, r.edit, r.name, r.created_at, r.is_needed, r.format,
                   case when r.is_needed then r.document::text end as document, case when r.is_needed then g.midi end as song
            from (select r.revision as number, r.*, r.name <> '' or r.revision = s.revision or exists (select 1 from takes t where t.session_id = s.id and t.revision = r.revision) as is_needed
                  from split_revisions r join sessions s on s.id = r.session_id where s.id = @sessionId) r
            join songs g on g.id = r.song_id
            """,
            new { sessionId },
            snapshot)).AsList();

    private static async Task<IReadOnlyList<(BundledTake Take, IReadOnlyList<BundledAudio> Audio)>> Takes(NpgsqlConnection connection, NpgsqlTransaction snapshot, long sessionId, List<HandoffPaper> documents)
    {
        var id = new { sessionId };
        var heads = (await connection.QueryAsync<TakeRow>(
            """
            select t.id, t.number, t.kind, t.revision, t.note, t.created_at, t.notes, m.mends::text as mends, m.undone::text as undone, coalesce(m.trial, 0) as trial
            from takes t left join take_mends m on m.take_id = t.id where t.session_id = @sessionId order by t.number
            """,
            id,
            snapshot)).AsList();
        var tracks = (await connection.QueryAsync<TrackRow>(
            """
            select tt.take_id, tt.position, tt.pass, tt.track_id, tt.name, tt.family, tt.elements, tt.source, tt.remark, tt.hash, a.bytes
            from take_tracks tt join takes t on t.id = tt.take_id join audio_files a on a.hash = tt.hash where t.session_id = @sessionId order by tt.position
            """,
            id,
            snapshot)).ToLookup(t => t.TakeId);
        var accepted = (await connection.QueryAsync<(long TakeId, string Finding, string Reason)>(
            "select a.take_id, a.finding, a.reason from accepted_proofs a join takes t on t.id = a.take_id where t.session_id = @sessionId order by a.finding", id, snapshot)).ToLookup(a => a.TakeId);
        var takes = new List<(BundledTake, IReadOnlyList<BundledAudio>)>();
        foreach (var head in heads)
        {
            var notes = head.Notes is null ? null : $"takes/{head.Number}/notes.mid";
            if (notes is not null)
            {
                documents.Add(new(notes, head.Notes!));
            }

            var own = tracks[head.Id].Select(t => (Track: t, Path: $"takes/{head.Number}/{t.Position:00} {FileName.Clean(t.Name)}.wav")).ToList();
            takes.Add((
                new BundledTake(
                    head.Number,
                    head.Kind == TakeKind.Print,
                    head.Revision,
                    head.Note,
                    head.CreatedAt,
                    notes,
                    [.. own.Select(t => t.Track.Bundled(t.Path))],
                    [.. ProofJson.ReadMends(head.Mends ?? MendList.None)],
                    [.. ProofJson.ReadMends(head.Undone ?? MendList.None)],
                    head.Trial,
                    [.. accepted[head.Id].Select(a => new BundledReason(a.Finding, a.Reason))]),
                [.. own.Select(t => new BundledAudio(t.Path, t.Track.Hash, t.Track.Bytes))]));
        }

        return takes;
    }

    /// <summary>The charts of one's own that its sources have on the shelf, as they are there.</summary>
    private async Task<ImmutableArray<string>> Charts(Split split, List<HandoffPaper> documents)
    {
        var paths = ImmutableArray.CreateBuilder<string>();
        foreach (var id in split.Units.Select(u => u.Chart.Id).Distinct().Where(id => !ChartStore.IsShipped(id)))
        {
            if (await charts.Find(id) is { } chart)
            {
                paths.Add($"charts/{id}.chart.json");
                documents.Add(new(paths[^1], Encoding.UTF8.GetBytes(ChartJson.Write(chart))));
            }
        }

        return paths.ToImmutable();
    }

    private static async Task KeepRevisions(NpgsqlConnection connection, NpgsqlTransaction transaction, long id, ArrivingSession arriving)
    {
        // Revisions that have the same song share it.
        var songs = new Dictionary<string, long>();
        foreach (var revision in arriving.Session.Revisions.OrderBy(r => r.Number))
        {
            var file = arriving.Revisions[revision.Number].File;
            var sum = HashList.Sum(file.Song);
            if (!songs.TryGetValue(sum, out var song))
            {
                songs[sum] = song = await connection.ExecuteScalarAsync<long>("insert into songs (session_id, midi) values (@id, @Song) returning id", new { id, file.Song }, transaction);
            }

            await connection.ExecuteAsync(
                """
                insert into split_revisions (session_id, revision, parent, steps, edit, name, document, format, created_at, song_id)
                values (@id, @Number, @Parent, @Steps, @Edit, @Name, @document::jsonb, @format, @Made, @song)
                """,
                new { id, revision.Number, revision.Parent, revision.Steps, revision.Edit, revision.Name, document = SplitJson.Write(file.Split), format = SplitVersions.Current, revision.Made, song },
                transaction);
        }
    }

    private static async Task<long> KeepTake(NpgsqlConnection connection, NpgsqlTransaction transaction, long sessionId, BundledTake take, ArrivingSession arriving)
    {
        var id = await connection.ExecuteScalarAsync<long>(
            "insert into takes (session_id, number, kind, revision, note, notes, created_at) values (@sessionId, @Number, @kind, @Revision, @Note, @notes, @Made) returning id",
            new { sessionId, take.Number, kind = take.Printed ? TakeKind.Print : TakeKind.BringIn, take.Revision, take.Note, notes = arriving.Notes.GetValueOrDefault(take.Number), take.Made },
            transaction);
        foreach (var track in arriving.Tracks[take.Number])
        {
            await TakeStore.KeepTrack(connection, transaction, id, track);
        }

        if (take.Mends.Length + take.Undone.Length > 0)
        {
            await connection.ExecuteAsync(
                "insert into take_mends (take_id, mends, undone, trial) values (@id, @mends::jsonb, @undone::jsonb, @OnTrial)",
                new { id, mends = ProofJson.Write(take.Mends), undone = ProofJson.Write(take.Undone), take.OnTrial },
                transaction);
        }

        await connection.ExecuteAsync(
            "insert into accepted_proofs (take_id, finding, reason) values (@id, @Finding, @Why)",
            take.Accepted.Select(a => new { id, a.Finding, a.Why }),
            transaction);
        return id;
    }

    private sealed record RevisionRow(int Number, int? Parent, int Steps, string Edit, string Name, DateTime CreatedAt, bool IsNeeded, int Format, string? Document, byte[]? Song)
    {
        /// <summary>With the next revision on the way back that leaves too as what it was made from.</summary>
        public BundledRevision Bundled(IReadOnlyDictionary<int, RevisionRow> all, string file)
        {
            var (parent, steps) = (Parent, Steps);
            while (parent is { } number && all.GetValueOrDefault(number) is { IsNeeded: false } between)
            {
                (parent, steps) = (between.Parent, steps + between.Steps);
            }

            return new BundledRevision(Number, parent, steps, Edit, Name, CreatedAt, file);
        }
    }

    private sealed record TakeRow(long Id, int Number, string Kind, int Revision, string Note, DateTime CreatedAt, byte[]? Notes, string? Mends, string? Undone, int Trial);

    private sealed record TrackRow(long TakeId, int Position, int Pass, TrackId TrackId, string Name, string? Family, string Elements, string Source, string Remark, string Hash, Bytes Bytes)
    {
        public BundledTrack Bundled(string path) => new(Position, Pass, TrackId, Name, Enum.TryParse<Family>(Family, out var family) ? family : null, Elements, Source, Remark, path);
    }
}

using Dapper;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using Npgsql;

namespace GateSplit.Data;

/// <summary>Takes with their files and measurements.</summary>
/// <param name="database">The database.</param>
public sealed class TakeStore(NpgsqlDataSource database)
{
    private const string Tracks = """
        select tt.take_id, owner.number as take_number, tt.position, tt.pass, tt.remark, tt.track_id, tt.name, tt.family, tt.elements, tt.source, tt.hash,
               a.bytes, a.channels, a.sample_rate, a.sample_format, a.frames, a.overview_hash, a.remarks,
               m.sample_peak_dbfs, m.rms_dbfs, m.dc_offset, m.clipped_runs, m.full_scale, m.silent
        from take_tracks tt
        join takes owner on owner.id = tt.take_id
        join audio_files a on a.hash = tt.hash
        cross join lateral (
            select max(sample_peak_dbfs) as sample_peak_dbfs, max(rms_dbfs) as rms_dbfs,
                   (array_agg(dc_offset order by abs(dc_offset) desc))[1] as dc_offset,
                   sum(clipped_runs)::bigint as clipped_runs, bool_and(silent) as silent,
                   case when bool_and(full_scale is not null) then sum(full_scale)::bigint end as full_scale
            from measurements where hash = tt.hash) m
        """;

    private const string Heads = "select id, session_id, number, kind, revision, note, created_at from takes";

    /// <summary>How many takes a session has.</summary>
    public async Task<long> Count(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<long>("select count(*) from takes where session_id = @sessionId", new { sessionId });
    }

    /// <summary>The takes of a session, the newest first.</summary>
    public async Task<IReadOnlyList<Take>> Of(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        var heads = (await connection.QueryAsync<Head>($"{Heads} where session_id = @sessionId order by number desc", new { sessionId })).AsList();
        var tracks = (await Read(connection, $"{Tracks} where owner.session_id = @sessionId order by tt.position", new { sessionId })).ToLookup(t => t.TakeId);
        return [.. heads.Select(h => h.With([.. tracks[h.Id]]))];
    }

    /// <summary>One take; null if there is none.</summary>
    public async Task<Take?> Find(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        var head = await connection.QuerySingleOrDefaultAsync<Head>($"{Heads} where id = @id", new { id });
        if (head is null)
        {
            return null;
        }

        return head.With(await Read(connection, $"{Tracks} where tt.take_id = @id order by tt.position", new { id }));
    }

    /// <summary>Keeps a take whole, or nothing of it; ends its job in the same transaction.</summary>
    /// <param name="take">The take; its files are in the store.</param>
    /// <param name="jobId">The job that made it.</param>
    /// <returns>Its id.</returns>
    public async Task<long> Keep(NewTake take, long jobId)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();

        await StoreLock.Share(connection, transaction);

        // A job that was cut off from the database after its commit asks again; it gets the take it already has.
        var kept = await connection.ExecuteScalarAsync<long?>("select take_id from jobs where id = @jobId for update", new { jobId }, transaction);
        if (kept is { } already)
        {
            return already;
        }

        // Numbers are given one after the other, and two passes of one print find the same take.
        await connection.ExecuteAsync("select 1 from sessions where id = @SessionId for update", take, transaction);
        var id = await connection.ExecuteScalarAsync<long?>("select id from takes where print_id = @PrintId", take, transaction)
            ?? await connection.ExecuteScalarAsync<long>(
                """
                insert into takes (session_id, number, kind, revision, note, print_id, notes)
                select @SessionId, coalesce(max(number), 0) + 1, @Kind, @Revision, @Note, @PrintId, @Notes from takes where session_id = @SessionId
                returning id
                """,
                take,
                transaction);
        // Two who keep the same files wait for each other in one order only.
        foreach (var track in take.Tracks.OrderBy(t => t.Hash, StringComparer.Ordinal))
        {
            await KeepFile(connection, transaction, track);
        }

        foreach (var track in take.Tracks)
        {
            await KeepTrack(connection, transaction, id, track);
        }

        await connection.ExecuteAsync(
            "delete from line_choices where session_id = @SessionId and track_id = any(@tracks)",
            new { take.SessionId, tracks = take.Tracks.Select(t => t.TrackId.Value).ToArray() },
            transaction);

        await connection.ExecuteAsync(
            "update jobs set state = 'done', share = 1, take_id = @id, ended_at = now(), sentence = '' where id = @jobId; delete from held_files where job_id = @jobId; update sessions set updated_at = now() where id = @SessionId",
            new { id, jobId, take.SessionId },
            transaction);
        await transaction.CommitAsync();
        return id;
    }

    /// <summary>The notes that sounded in a take, as a MIDI file; null if nobody knows.</summary>
    public async Task<byte[]?> Notes(long id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<byte[]?>("select notes from takes where id = @id", new { id });
    }

    /// <summary>Of each track the recording that counts: that of the chosen take, or of the newest.</summary>
    /// <returns>As if it were a take, with the number 0; null if there is no take.</returns>
    public async Task<Take?> Chosen(long sessionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        var tracks = (await Read(
            connection,
            $"""
            select distinct on (line.track_id) line.* from ({Tracks} where owner.session_id = @sessionId) line
            left join line_choices choice on choice.session_id = @sessionId and choice.track_id = line.track_id
            order by line.track_id, (line.take_id = choice.take_id) desc nulls last, line.take_number desc
            """,
            new { sessionId })).OrderBy(t => t.Position).ThenBy(t => t.TrackId.Value, StringComparer.Ordinal).ToList();
        return tracks.Count == 0
            ? null
            : new Take(0, sessionId, 0, TakeKind.Print, 0, "", DateTime.UtcNow, [.. tracks.Select((t, i) => t with { Position = i + 1 })]);
    }

    /// <summary>Chooses the take that counts for a track.</summary>
    public async Task Choose(long sessionId, TrackId trackId, long takeId)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into line_choices (session_id, track_id, take_id)
            select @sessionId, @trackId, t.id from takes t join take_tracks tt on tt.take_id = t.id
            where t.session_id = @sessionId and t.id = @takeId and tt.track_id = @trackId
            on conflict (session_id, track_id) do update set take_id = excluded.take_id
            """,
            new { sessionId, trackId, takeId });
    }

    /// <summary>Writes a remark beside a track of a take.</summary>
    public async Task Remark(long sessionId, long takeId, TrackId trackId, string remark)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            update take_tracks tt set remark = @remark from takes t
            where t.id = tt.take_id and t.session_id = @sessionId and tt.take_id = @takeId and tt.track_id = @trackId
            """,
            new { sessionId, takeId, trackId, remark });
    }

    /// <summary>The overview of a file; null if there is no such file.</summary>
    public async Task<string?> Overview(string hash)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<string?>("select overview_hash from audio_files where hash = @hash", new { hash });
    }

    /// <summary>The overview of a file was made anew.</summary>
    public async Task SetOverview(string hash, string overviewHash)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("update audio_files set overview_hash = @overviewHash where hash = @hash", new { hash, overviewHash });
    }

    /// <summary>Keeps what is known of a file.</summary>
    internal static async Task KeepFile(NpgsqlConnection connection, NpgsqlTransaction transaction, NewTake.Track track)
    {
        var format = track.Measure.Format;
        await connection.ExecuteAsync(
            """
            insert into audio_files (hash, bytes, channels, sample_rate, sample_format, frames, overview_hash, remarks)
            values (@Hash, @Bytes, @Channels, @SampleRate, @Sample, @Frames, @OverviewHash, @Remarks)
            on conflict (hash) do nothing
            """,
            new { track.Hash, track.Bytes, format.Channels, format.SampleRate, Sample = format.Sample.ToString(), track.Measure.Frames, track.OverviewHash, Remarks = track.Measure.Remarks.ToArray() },
            transaction);
        for (var channel = 0; channel < track.Measure.Channels.Length; channel++)
        {
            var levels = track.Measure.Channels[channel];
            await connection.ExecuteAsync(
                """
                insert into measurements (hash, channel, sample_peak_dbfs, rms_dbfs, dc_offset, clipped_runs, full_scale, silent)
                values (@Hash, @channel, @Peak, @Rms, @DcOffset, @ClippedRuns, @FullScale, @Silent)
                on conflict (hash, channel) do update set full_scale = excluded.full_scale;
                insert into clips (hash, channel, start_frame, length) select @Hash, @channel, * from unnest(@starts, @lengths) on conflict do nothing
                """,
                new
                {
                    track.Hash,
                    channel = channel + 1,
                    Peak = Finite(levels.SamplePeak),
                    Rms = Finite(levels.Rms),
                    levels.DcOffset,
                    levels.ClippedRuns,
                    levels.FullScale,
                    levels.Silent,
                    starts = levels.Runs.Select(r => r.StartFrame.Count).ToArray(),
                    lengths = levels.Runs.Select(r => r.Length.Count).ToArray(),
                },
                transaction);
        }
    }

    /// <summary>Keeps a track of a take.</summary>
    internal static Task KeepTrack(NpgsqlConnection connection, NpgsqlTransaction transaction, long takeId, NewTake.Track track) => connection.ExecuteAsync(
        """
        insert into take_tracks (take_id, position, pass, remark, track_id, name, family, elements, source, hash)
        values (@takeId, @Position, @Pass, @Remark, @TrackId, @Name, @Family, @Elements, @Source, @Hash)
        on conflict (take_id, position) do update set hash = excluded.hash, name = excluded.name, remark = excluded.remark
        """,
        new { takeId, track.Position, track.Pass, track.Remark, track.TrackId, track.Name, track.Family, track.Elements, track.Source, track.Hash },
        transaction);

    /// <summary>Tracks with the places where they clip.</summary>
    private static async Task<IReadOnlyList<TakeTrack>> Read(NpgsqlConnection connection, string query, object parameters)
    {
        var tracks = (await connection.QueryAsync<TakeTrack>(query, parameters)).AsList();
        var clipped = tracks.Where(t => t.ClippedRuns > 0).Select(t => t.Hash).Distinct().ToArray();
        if (clipped.Length == 0)
        {
            return tracks;
        }

        var clips = (await connection.QueryAsync<(string Hash, long Start, long Length)>(
                """
                select c.hash, c.start_frame, c.length from unnest(@clipped) as of (hash)
                cross join lateral (select * from clips where hash = of.hash order by start_frame, channel limit @most) c
                """,
                new { clipped, most = ChannelMeter.MostRunsKept }))
            .ToLookup(c => c.Hash, c => new ClipRun(new Frames(c.Start), new Frames(c.Length)));
        return [.. tracks.Select(t => t with { Clips = [.. clips[t.Hash]] })];
    }

    private static Decibels? Finite(Decibels level) => level > Decibels.Silence ? level : null;

    private sealed record Head(long Id, long SessionId, int Number, string Kind, int Revision, string Note, DateTime CreatedAt)
    {
        public Take With(IReadOnlyList<TakeTrack> tracks) => new(Id, SessionId, Number, Kind, Revision, Note, CreatedAt, tracks);
    }
}

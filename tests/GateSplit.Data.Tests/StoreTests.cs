using Dapper;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Data.Tests;

public sealed class StoreTests : IAsyncLifetime
{
    private readonly TestDatabase _database = new();
    private NpgsqlDataSource _source = null!;
    private SessionStore _sessions = null!;
    private TakeStore _takes = null!;
    private JobStore _jobs = null!;

    public ValueTask InitializeAsync()
    {
        Migrator.Run(_database.ConnectionString);
        _source = Database.Open(_database.ConnectionString);
        _sessions = new SessionStore(_source);
        _takes = new TakeStore(_source);
        _jobs = new JobStore(_source);
        return ValueTask.CompletedTask;
    }

    public async ValueTask DisposeAsync()
    {
        await _source.DisposeAsync();
        await _database.DisposeAsync();
    }

    [Fact]
    public void Migrating_twice_changes_nothing() => Migrator.Run(_database.ConnectionString);

    [Fact]
    public async Task The_role_of_the_application_is_no_superuser_and_every_foreign_key_has_an_index()
    {
        await using var connection = await _source.OpenConnectionAsync(TestContext.Current.CancellationToken);
        Assert.False(await connection.ExecuteScalarAsync<bool>("select rolsuper or rolcreaterole from pg_roles where rolname = current_user"));
        Assert.Empty(await connection.QueryAsync<string>(
            """
            select c.conrelid::regclass || ' ' || c.conname from pg_constraint c
            where c.contype = 'f' and not exists (
                select 1 from pg_index i where i.indrelid = c.conrelid and i.indpred is null and i.indkey[0] = c.conkey[1])
            """));
    }

    [Fact]
    public async Task A_session_comes_back_as_it_was_made()
    {
        var demo = DemoSessions.All[1];
        var id = await Make(demo);
        var state = (await _sessions.Load(id))!;
        Assert.Equal((demo.Name, 1), (state.Name, state.Revision));
        Assert.Equal(SplitJson.Write(demo.Split), SplitJson.Write(state.Split));
        Assert.Equal(MidiWriter.Write(demo.Song), state.Song);
        Assert.Null(state.Undo);
        Assert.Null(state.Redo);
    }

    [Fact]
    public async Task The_head_tells_name_revision_undo_and_redo_without_the_document()
    {
        Assert.Null(await _sessions.Head(-1));
        var id = await Make(DemoSessions.All[1]);
        Assert.Equal(new SessionHead("Fog Signal", 1, null, null), await _sessions.Head(id));
        var split = (await _sessions.Load(id))!.Split;
        Assert.NotNull(await _sessions.Save(id, 1, new SetArmed(new TrackId("t1"), false).Apply(split).Value!, "Disarm Kick"));
        var edited = (await _sessions.Head(id))!;
        Assert.Equal("Disarm Kick", edited.Undo);
        Assert.True(await _sessions.Undo(id, edited.Revision));
        Assert.Equal(new SessionHead("Fog Signal", 1, null, "Disarm Kick"), await _sessions.Head(id));
        Assert.Equal(0, await _takes.Count(id));
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task Undoing_any_sequence_of_edits_gives_back_every_document_on_the_way(int seed)
    {
        var random = new Random(seed);
        var id = await Make(DemoSessions.All[1]);
        var documents = new List<string> { SplitJson.Write((await _sessions.Load(id))!.Split) };
        for (var i = 0; i < 15; i++)
        {
            var state = (await _sessions.Load(id))!;
            var edit = Any(random, state.Split);
            if (edit.Apply(state.Split) is { Ok: true } after)
            {
                Assert.NotNull(await _sessions.Save(id, state.Revision, after.Value, edit.Name(state.Split)));
                documents.Add(SplitJson.Write(after.Value));
            }
        }

        Assert.True(documents.Count > 8);
        var history = await _sessions.History(id);
        Assert.Equal(documents.Count, history.Count);
        for (var i = documents.Count - 2; i >= 0; i--)
        {
            Assert.True(await _sessions.Undo(id, (await _sessions.Load(id))!.Revision));
            Assert.Equal(documents[i], SplitJson.Write((await _sessions.Load(id))!.Split));
        }

        for (var i = 1; i < documents.Count; i++)
        {
            Assert.True(await _sessions.Redo(id, (await _sessions.Load(id))!.Revision));
            Assert.Equal(documents[i], SplitJson.Write((await _sessions.Load(id))!.Split));
        }

        // In one go as well, and a revision that is not on the way is refused.
        Assert.True(await _sessions.GoBack(id, history[0].Number, history[^3].Number));
        Assert.Equal(documents[2], SplitJson.Write((await _sessions.Load(id))!.Split));
        Assert.False(await _sessions.GoBack(id, history[^3].Number, 999));
        Assert.False(await _sessions.GoBack(id, history[0].Number, history[^1].Number));
    }

    private static Edit Any(Random random, Split split)
    {
        var unit = split.Units[random.Next(split.Units.Length)];
        var element = new ElementRef(unit.Id, unit.Elements[random.Next(unit.Elements.Length)].ElementId);
        var track = split.Tracks[random.Next(split.Tracks.Length)].Id;
        return random.Next(9) switch
        {
            0 => new AssignPort(element, unit.Chart.Ports[random.Next(unit.Chart.Ports.Length)].Number),
            1 => new SetFader(element, new Decibels(random.Next(-60, 12))),
            2 => new SetPan(element, new Pan(random.NextDouble() * 2 - 1)),
            3 => new SetMuted(element, random.Next(2) == 0),
            4 => new SetArmed(track, random.Next(2) == 0),
            5 => new MoveTrack(track, random.Next(2) == 0 ? -1 : 1),
            6 => new RemoveTrack(track),
            7 => new RenameTrack(track, $"Name {random.Next(100)}"),
            _ => new SetTrackInput(track, new InputRef(split.Banks[random.Next(split.Banks.Length)].Id, random.Next(1, 8))),
        };
    }

    [Fact]
    public async Task A_song_that_was_replaced_comes_back_with_undo_and_each_revision_keeps_its_own()
    {
        var split = DemoSessions.All[1].Split;
        var id = await _sessions.Create("Songs", [1, 2, 3], split);
        Assert.Equal(2, await _sessions.Save(id, 1, split, "Replace the song", song: [4, 5]));
        Assert.Equal(3, await _sessions.Save(id, 2, split, "Something else"));
        var now = (await _sessions.Load(id))!;
        Assert.Equal([4, 5], now.Song);
        Assert.Equal([1, 2, 3], (await _sessions.Load(id, 1))!.Song);
        Assert.True(await _sessions.Undo(id, 3));
        Assert.Equal((now.SongId, "Replace the song"), ((await _sessions.Load(id))!.SongId, (await _sessions.Load(id))!.Undo));
        Assert.True(await _sessions.Undo(id, 2));
        Assert.Equal([1, 2, 3], (await _sessions.Load(id))!.Song);
        Assert.NotEqual(now.SongId, (await _sessions.Load(id))!.SongId);
        Assert.True(await _sessions.Redo(id, 1));
        Assert.Equal([4, 5], (await _sessions.Load(id))!.Song);

        // Two windows: the later edit is refused, and no song of it stays behind.
        Assert.Null(await _sessions.Save(id, 1, split, "Late", song: [9]));
        Assert.Equal([4, 5], (await _sessions.Load(id))!.Song);
    }

    [Fact]
    public async Task Undo_and_redo_walk_the_history_and_a_new_edit_ends_redo()
    {
        var id = await Make(DemoSessions.All[0]);
        var start = (await _sessions.Load(id))!;
        var one = start.Split with { Tracks = start.Split.Tracks.RemoveAt(0) };
        var two = one with { Tracks = one.Tracks.RemoveAt(0) };
        Assert.NotNull(await _sessions.Save(id, 1, one, "first"));
        Assert.NotNull(await _sessions.Save(id, 2, two, "second"));
        Assert.Equal("second", (await _sessions.Load(id))!.Undo);
        Assert.True(await _sessions.Undo(id, 3));
        Assert.True(await _sessions.Undo(id, 2));
        Assert.False(await _sessions.Undo(id, 1));
        var back = (await _sessions.Load(id))!;
        Assert.Equal(SplitJson.Write(start.Split), SplitJson.Write(back.Split));
        Assert.Equal((null, "first"), (back.Undo, back.Redo));
        Assert.True(await _sessions.Redo(id, 1));
        Assert.Equal(SplitJson.Write(one), SplitJson.Write((await _sessions.Load(id))!.Split));
        Assert.NotNull(await _sessions.Save(id, 2, start.Split, "third"));
        Assert.Equal(("third", null), ((await _sessions.Load(id))!.Undo, (await _sessions.Load(id))!.Redo));
        Assert.False(await _sessions.Redo(id, 4));
    }

    [Fact]
    public async Task Of_many_edits_from_one_revision_exactly_one_is_kept()
    {
        var id = await Make(DemoSessions.All[0]);
        var split = DemoSessions.All[0].Split;
        var results = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => Task.Run(() => _sessions.Save(id, 1, split, $"edit {i}"))));
        Assert.Single(results, kept => kept is not null);
        Assert.Equal(2, (await _sessions.Load(id))!.Revision);
    }

    [Fact]
    public async Task A_take_is_kept_whole_with_its_numbers_and_once_even_if_asked_twice()
    {
        var id = await Make(DemoSessions.All[0]);
        var job = (await _jobs.Create(id, TakeKind.Print, "{}"))!.Value;
        var take = NewTake(id, "aa", "bb");
        var first = await _takes.Keep(take, job);
        Assert.Equal(first, await _takes.Keep(take, job));
        var kept = Assert.Single(await _takes.Of(id));
        Assert.Equal(["Kick", "Snare"], kept.Tracks.Select(t => t.Name));
        Assert.Equal(-6.02, kept.Tracks[0].SamplePeakDbfs!.Value.Value, 0.01);
        Assert.Equal((2, (Frames?)7), (kept.Tracks[0].ClippedRuns, kept.Tracks[0].FullScale));
        Assert.Equal([new ClipRun(5, 3), new ClipRun(20, 4)], kept.Tracks[0].Clips);
        Assert.Equal(((Frames?)0, 0), (kept.Tracks[1].FullScale, kept.Tracks[1].Clips.Count));
        Assert.Null(kept.Tracks[1].SamplePeakDbfs);
        Assert.True(kept.Tracks[1].Silent);
        Assert.Equal((JobState.Done, first), ((await _jobs.Find(job))!.State, (await _jobs.Find(job))!.TakeId));
        Assert.Equal(1, Assert.Single(await _sessions.List()).Takes);
    }

    [Fact]
    public async Task A_session_has_one_job_at_a_time()
    {
        var id = await Make(DemoSessions.All[0]);
        var asked = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => Task.Run(() => _jobs.Create(id, TakeKind.Print, "{}"))));
        var job = Assert.Single(asked, j => j is not null)!.Value;
        Assert.Equal(job, (await _jobs.Claim("here:1"))!.Id);
        Assert.Null(await _jobs.Claim("here:1"));
        Assert.True(await _jobs.Beat(job, "here:1", 0.25, "t1:0.5"));
        Assert.Equal((0.25, "t1:0.5"), ((await _jobs.Find(job))!.Share, (await _jobs.Find(job))!.Levels));
        Assert.Null(await _jobs.Beat(job, "here:2", 0.9, "")); // not its job
        Assert.False(await _jobs.End(job, JobState.Failed, "Not its job.", "here:2"));
        Assert.True(await _jobs.RequestStop(job));
        Assert.False(await _jobs.Beat(job, "here:1", 0.3, ""));
        Assert.True(await _jobs.End(job, JobState.Stopped, "Stopped.", "here:1"));
        Assert.NotNull(await _jobs.Create(id, TakeKind.Print, "{}"));
    }

    [Fact]
    public async Task A_job_whose_worker_is_silent_is_told_as_interrupted_and_others_are_left_alone()
    {
        var silent = (await _jobs.Create(await Make(DemoSessions.All[0]), TakeKind.Print, "{}"))!.Value;
        var busy = (await _jobs.Create(await Make(DemoSessions.All[0]), TakeKind.Print, "{}"))!.Value;
        Assert.Equal(silent, (await _jobs.Claim("here:1"))!.Id);
        Assert.Equal(busy, (await _jobs.Claim("here:2"))!.Id);
        await using (var age = _source.CreateCommand($"update jobs set heartbeat_at = now() - interval '1 minute' where id = {silent}"))
        {
            await age.ExecuteNonQueryAsync();
        }

        Assert.Equal(1, await _jobs.InterruptAbandoned(TimeSpan.FromSeconds(20), []));
        Assert.Equal(JobState.Interrupted, (await _jobs.Find(silent))!.State);
        Assert.Equal(JobState.Running, (await _jobs.Find(busy))!.State);
        Assert.Equal(["here:2"], await _jobs.Workers());
        Assert.Equal(1, await _jobs.InterruptAbandoned(TimeSpan.FromSeconds(20), ["here:2"]));
    }

    [Fact]
    public async Task Workers_take_what_waits_in_turn_between_sessions_and_each_job_once()
    {
        var (long1, short1, late) = (await Make(DemoSessions.All[0]), await Make(DemoSessions.All[0]), await Make(DemoSessions.All[0]));
        var many = await _jobs.CreatePrint(long1, "{}", [1, 2, 3, 4], null);
        var brought = (await _jobs.Create(short1, TakeKind.BringIn, "{}"))!.Value;
        Assert.Equal(many[0], (await _jobs.Claim("here:1"))!.Id);
        Assert.Equal((brought, TakeKind.BringIn, JobState.Running), await _jobs.Claim("here:2") is { } second ? (second.Id, second.Kind, second.State) : default);
        var last = (await _jobs.Create(late, TakeKind.Print, "{}"))!.Value;
        await _jobs.End(many[0], JobState.Failed, "The disk is full.", "here:1");
        Assert.Equal(last, (await _jobs.Claim("here:1"))!.Id); // it has had no turn yet, though others wait longer
        Assert.Equal(many[1], (await _jobs.Claim("here:1"))!.Id);
        var rest = await Task.WhenAll(Enumerable.Range(0, 8).Select(w => Task.Run(() => _jobs.Claim($"here:{w}"))));
        Assert.Equal([many[2], many[3]], rest.OfType<Job>().Select(j => j.Id).Order());
    }

    [Fact]
    public async Task The_passes_of_a_print_are_jobs_of_their_own_and_make_one_take()
    {
        var id = await Make(DemoSessions.All[0]);
        var asked = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => Task.Run(() => _jobs.CreatePrint(id, "{}", [1, 2, 3], null))));
        var jobs = Assert.Single(asked, j => j.Count > 0); // two browsers get one print
        Assert.Equal([(1, (long?)jobs[0]), (2, jobs[0]), (3, jobs[0])], (await _jobs.Current(id)).Select(j => (j.Pass, j.PrintId)));
        Assert.Equal(jobs[0], (await _jobs.Newest(id))!.Id); // the first that waits

        // The second pass is done before the first, by another worker.
        Assert.Equal(jobs[0], (await _jobs.Claim("here:1"))!.Id);
        Assert.Equal(jobs[1], (await _jobs.Claim("here:2"))!.Id);
        NewTake Pass(int pass, int position, string pair) => NewTake(id, pair) with
        {
            PrintId = jobs[0],
            Notes = [1, 2],
            Tracks = [NewTake(id, pair, pair).Tracks[0] with { TrackId = new TrackId($"t{position}"), Position = position, Pass = pass }],
        };
        var take = await _takes.Keep(Pass(2, 2, "bb"), jobs[1]);
        Assert.Equal(take, await _takes.Keep(Pass(1, 1, "aa"), jobs[0]));
        var kept = Assert.Single(await _takes.Of(id));
        Assert.Equal([("t1", 1), ("t2", 2)], kept.Tracks.Select(t => (t.TrackId.Value, t.Pass)));
        Assert.Equal([1, 2], await _takes.Notes(take));

        // The third is stopped before it begins, and offered again until it is done.
        await _jobs.RequestStop(jobs[2]);
        Assert.Equal([JobState.Stopped], (await _jobs.Current(id)).Select(j => j.State));
        var again = await _jobs.CreatePrint(id, "{}", [3], jobs[0]);
        Assert.Equal([(again[0], JobState.Queued)], (await _jobs.Current(id)).Select(j => (j.Id, j.State)));
        Assert.Equal(again[0], (await _jobs.Claim("here:1"))!.Id);
        Assert.Equal(take, await _takes.Keep(Pass(3, 3, "cc"), again[0]));
        Assert.Empty(await _jobs.Current(id));
    }

    [Fact]
    public async Task Stopping_a_pass_stops_those_after_it_too()
    {
        var id = await Make(DemoSessions.All[0]);
        var jobs = await _jobs.CreatePrint(id, "{}", [1, 2, 3], null);
        Assert.Equal(jobs[0], (await _jobs.Claim("here:1"))!.Id);
        await _jobs.RequestStop(jobs[0]);
        Assert.Equal([(JobState.Running, true), (JobState.Stopped, true), (JobState.Stopped, true)], (await _jobs.Current(id)).Select(j => (j.State, j.StopRequested)));
    }

    [Fact]
    public async Task A_pass_whose_worker_is_gone_waits_again_but_not_for_ever()
    {
        var id = await Make(DemoSessions.All[0]);
        var job = (await _jobs.CreatePrint(id, "{}", [1], null))[0];
        for (var tries = 1; tries < 5; tries++)
        {
            Assert.Equal(job, (await _jobs.Claim($"gone:{tries}"))!.Id);
            Assert.Empty(await _jobs.TakeOver(TimeSpan.FromMinutes(1), ["another"]));
            Assert.Equal([job], await _jobs.TakeOver(TimeSpan.FromMinutes(1), [$"gone:{tries}"]));
            Assert.Equal((JobState.Queued, tries + 1), ((await _jobs.Find(job))!.State, (await _jobs.Find(job))!.Tries));
        }

        Assert.Equal(job, (await _jobs.Claim("gone:5"))!.Id);
        Assert.Empty(await _jobs.TakeOver(TimeSpan.FromMinutes(1), ["gone:5"]));
        Assert.Equal(1, await _jobs.InterruptAbandoned(TimeSpan.FromMinutes(1), ["gone:5"]));
    }

    [Fact]
    public async Task Of_each_line_the_chosen_take_counts_or_else_the_newest()
    {
        var id = await Make(DemoSessions.All[0]);
        async Task<long> Record(params (string Track, string Pair)[] tracks) => await _takes.Keep(
            NewTake(id, "aa", "bb") with { Tracks = [.. tracks.Select((t, i) => NewTake(id, t.Pair, t.Pair).Tracks[0] with { TrackId = new TrackId(t.Track), Name = t.Track, Position = i + 1 })] },
            (await _jobs.Create(id, TakeKind.Print, "{}"))!.Value);

        Assert.Null(await _takes.Chosen(id));
        var first = await Record(("t1", "aa"), ("t2", "bb"));
        var second = await Record(("t2", "cc"));
        async Task<IEnumerable<(string, int)>> Counting() => (await _takes.Chosen(id))!.Tracks.Select(t => (t.TrackId.Value, t.TakeNumber)).Order();
        Assert.Equal([("t1", 1), ("t2", 2)], await Counting());
        await _takes.Choose(id, new TrackId("t2"), first);
        Assert.Equal([("t1", 1), ("t2", 1)], await Counting());
        await _takes.Choose(id, new TrackId("t1"), second); // t1 is not in it
        Assert.Equal([("t1", 1), ("t2", 1)], await Counting());
        await _takes.Remark(id, first, new TrackId("t2"), "the better one");
        Assert.Equal("the better one", (await _takes.Find(first))!.Tracks.Single(t => t.TrackId.Value == "t2").Remark);
        await Record(("t2", "dd")); // what is recorded anew counts
        Assert.Equal([("t1", 1), ("t2", 3)], await Counting());
    }

    [Fact]
    public async Task A_take_of_another_session_is_neither_chosen_nor_remarked()
    {
        var (mine, other) = (await Make(DemoSessions.All[0]), await Make(DemoSessions.All[0]));
        async Task<long> Record(long session) => await _takes.Keep(NewTake(session, "aa", "bb") with { Tracks = [NewTake(session, "aa", "bb").Tracks[0]] }, (await _jobs.Create(session, TakeKind.Print, "{}"))!.Value);
        var (old, theirs) = (await Record(mine), await Record(other));
        await Record(mine);
        await _takes.Choose(mine, new TrackId("t1"), old);
        await _takes.Choose(mine, new TrackId("t1"), theirs);
        Assert.All((await _takes.Chosen(mine))!.Tracks, t => Assert.Equal((old, 1), (t.TakeId, t.TakeNumber)));
        Assert.All((await _takes.Chosen(other))!.Tracks, t => Assert.Equal(theirs, t.TakeId));
        await _takes.Remark(mine, theirs, new TrackId("t1"), "not theirs to say");
        await _takes.Remark(mine, old, new TrackId("t1"), "mine");
        Assert.All((await _takes.Find(theirs))!.Tracks, t => Assert.Equal("", t.Remark ?? ""));
        Assert.All((await _takes.Find(old))!.Tracks, t => Assert.Equal("mine", t.Remark));
    }

    private static string Hash(string pair) => string.Concat(Enumerable.Repeat(pair, 32));

    private static NewTake NewTake(long session, params string[] hashes)
    {
        var format = new AudioFormat(1, 48000, SampleFormat.Pcm24);
        var overview = new OverviewBuilder(1).Build();
        NewTake.Track Track(string name, string pair, ChannelLevels levels) => new(
            new TrackId("t1"), name, null, name, "port 1", Hash(pair), 100, Hash(pair) + "o", new FileMeasure(format, 30, [levels], overview, []));
        return new NewTake(session, TakeKind.Print, 1, "",
        [
            Track("Kick", hashes[0], new ChannelLevels(new Decibels(-6.02), new Decibels(-20), 0.1, 2, [new ClipRun(5, 3), new ClipRun(20, 4)], 7)) with { Position = 1 },
            Track("Snare", hashes[^1], new ChannelLevels(Decibels.Silence, Decibels.Silence, 0, 0, [], 0)) with { Position = 2 },
        ]);
    }

    private Task<long> Make(DemoSession demo) => _sessions.Create(demo.Name, MidiWriter.Write(demo.Song), demo.Split);
}

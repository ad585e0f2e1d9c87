using System.Collections.Concurrent;
using Dapper;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Data.Tests;

/// <summary>Files go with the last row that names them, and not before.</summary>
public sealed class AudioKeeperTests : IAsyncLifetime
{
    private const int Pool = 8;
    private readonly TestDatabase _database = new();
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-keeper-").FullName;
    private NpgsqlDataSource _source = null!;
    private int _kept;
    private FolderAudioStore _store = null!;
    private SessionStore _sessions = null!;
    private TakeStore _takes = null!;
    private JobStore _jobs = null!;
    private AudioKeeper _keeper = null!;
    private ReadingStore _readings = null!;

    public static TheoryData<int> Seeds => [.. Enumerable.Range(1, 6)];

    public ValueTask InitializeAsync()
    {
        Migrator.Run(_database.ConnectionString);
        _source = Database.Open(_database.ConnectionString);
        _store = new FolderAudioStore(_folder);
        (_sessions, _takes, _jobs) = (new SessionStore(_source), new TakeStore(_source), new JobStore(_source));
        (_keeper, _readings) = (new AudioKeeper(_source, _store), new ReadingStore(_source));
        return ValueTask.CompletedTask;
    }

    public async ValueTask DisposeAsync()
    {
        await _source.DisposeAsync();
        await _database.DisposeAsync();
        Directory.Delete(_folder, recursive: true);
    }

    [Fact]
    public async Task An_overview_that_two_files_share_stays_while_one_of_them_does()
    {
        var session = await Make();
        var first = await Record(session, 0, 3); // 0 and 3 have the same overview
        var second = await Record(session, 0);
        Assert.Null(await _keeper.DeleteTake(first));
        AssertHeld(File(0), Overview(0));
        Assert.Null(_store.Find(File(3)));
        Assert.Null(await _keeper.DeleteTake(second));
        Assert.Empty(_store.Files(DateTime.MaxValue));
    }

    [Fact]
    public async Task What_a_job_is_about_to_keep_outlives_the_take_that_had_it()
    {
        var session = await Make();
        var old = await Record(session, 0, 1);
        var job = await Begin(session);
        await TakeIn(job, 0);
        Assert.Null(await _keeper.DeleteTake(old));
        AssertHeld(File(0), Overview(0));
        Assert.Null(_store.Find(File(1)));
        await _takes.Keep(NewTake(session, 0), job.Id);
        AssertHeld(File(0), Overview(0));
        Assert.Equal(0, (await _keeper.Sweep(DateTime.MaxValue)).Removed);
    }

    /// <summary>Between the look at the rows and the removal of a file nobody begins to need it: who wants to waits, and then brings it anew.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_file_that_is_just_being_removed_is_not_held_nor_kept_before_it_is_gone(bool hold)
    {
        var session = await Make();
        var old = await Record(session, 0);
        var job = await Begin(session);
        using var removing = new ManualResetEventSlim();
        using var goOn = new ManualResetEventSlim();
        var slow = new StoreOnTheWay(_store)
        {
            Removing = _ =>
            {
                removing.Set();
                goOn.Wait(TestContext.Current.CancellationToken);
            },
        };
        var deleting = Task.Run(() => new AudioKeeper(_source, slow).DeleteTake(old));
        removing.Wait(TestContext.Current.CancellationToken);
        var coming = Task.Run(() => hold ? TakeIn(job, 0) : _takes.Keep(NewTake(session, 1), job.Id));
        await using var connection = await _source.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await Waiting.Until(
            async () => coming.IsCompleted || await connection.ExecuteScalarAsync<bool>("select exists (select 1 from pg_locks where locktype = 'advisory' and not granted and database = (select oid from pg_database where datname = current_database()))"),
            "whoever wants to name files waits");
        Assert.False(coming.IsCompleted);
        goOn.Set();
        Assert.Null(await deleting);
        await coming;
        Assert.Equal(hold, _store.Find(File(0)) is not null);
    }

    [Fact]
    public async Task A_try_that_ends_lets_go_of_its_own_files_only()
    {
        var session = await Make();
        var lost = await Begin(session);
        await TakeIn(lost, 0, 1);
        var again = lost with { Tries = lost.Tries + 1 };
        await TakeIn(again, 0);
        await _keeper.LetGo(lost);
        AssertHeld(File(0), Overview(0));
        Assert.Null(_store.Find(File(1)));
        await _keeper.LetGo(again);
        Assert.Empty(_store.Files(DateTime.MaxValue));
    }

    [Fact]
    public async Task A_sweep_removes_what_a_killed_program_left_and_tells_what_is_missing()
    {
        var session = await Make();
        await Record(session, 0);
        var killed = await Begin(session);
        await TakeIn(killed, 1);
        Assert.Equal(0, (await _keeper.Sweep(DateTime.MaxValue)).Removed); // its job runs
        await _jobs.End(killed.Id, JobState.Interrupted, "", "here:1");
        Assert.Equal(0, (await _keeper.Sweep(DateTime.UtcNow.AddHours(-1))).Removed); // too young
        Assert.Equal(2, (await _keeper.Sweep(DateTime.MaxValue)).Removed);
        AssertHeld(File(0), Overview(0));
        _store.Remove(File(0));
        Assert.Equal([File(0)], (await _keeper.Sweep(DateTime.MaxValue)).Missing);
        AssertHeld(Overview(0));
    }

    [Fact]
    public async Task A_proof_that_waits_keeps_nothing_and_one_that_runs_is_told()
    {
        var (session, other) = (await Make(), await Make());
        var (take, second) = (await Record(session, 0), await Record(session, 1));
        await _jobs.AskProof(session, take);
        await _jobs.AskProof(session, take);
        await _jobs.AskProof(other, take); // not its take
        Assert.Null(await _jobs.ProofOf(other, take));
        Assert.Null(await _jobs.ProofOf(session, second));

        // It keeps nobody from printing, and a print is done before it.
        Assert.Empty(await _jobs.Current(session));
        var print = (await _jobs.CreatePrint(session, "{}", [1], null))[0];
        Assert.Equal(print, (await _jobs.Claim("here:1"))!.Id);
        await _jobs.End(print, JobState.Stopped, "", "here:1");
        var proof = (await _jobs.Claim("here:1"))!;
        Assert.Equal((JobKind.Proof, proof.Id), (proof.Kind, (await _jobs.ProofOf(session, take))!.Id));
        Assert.Null(await _jobs.Claim("here:1")); // asked for twice, it waited once
        Assert.Equal("This take is being proved. Stop that on its page or wait for its end, then delete the take.", await _keeper.DeleteTake(take));
        Assert.Equal("A take of this session is being proved. Stop that on its page or wait for its end, then delete the session.", await _keeper.DeleteSession(session));
        Assert.Null(await _keeper.DeleteTake(second));
        await _jobs.End(proof.Id, JobState.Done, "", "here:1");
        await _jobs.AskProof(session, take);
        Assert.Null(await _keeper.DeleteTake(take));
        Assert.Null(await _keeper.DeleteSession(session));
    }

    [Fact]
    public async Task A_roll_call_is_read_once_at_a_time_keeps_nobody_from_printing_and_the_newest_is_kept()
    {
        var (session, other) = (await Make(), await Make());
        Assert.True(await _jobs.AskBeside(session, JobKind.RollCall, "{}"));
        Assert.False(await _jobs.AskBeside(session, JobKind.RollCall, "{}"));
        Assert.True(await _jobs.AskBeside(other, JobKind.RollCall, "{}"));
        Assert.False(await _jobs.AskBeside(other + 1000, JobKind.RollCall, "{}"));
        Assert.Empty(await _jobs.Current(session));
        Assert.NotEmpty(await _jobs.CreatePrint(session, "{}", [1], null));

        // Somebody waits for it, so unlike a proof it has its turn.
        var call = (await _jobs.Claim("here:1"))!;
        Assert.Equal((JobKind.RollCall, call.Id), (call.Kind, (await _jobs.Beside(session, JobKind.RollCall))!.Id));
        await Clear(session);
        Assert.Equal("A roll call of this session is being read. Stop that on its page or wait for its end, then delete the session.", await _keeper.DeleteSession(session));
        await _jobs.End(call.Id, JobState.Done, "", "here:1");

        var calls = new RollCallStore(_source);
        var reading = new RollCallReading(new RollCall(1, [], ["Hall return"], [new InputRef(new BankId("b"), 3)]), 0.5, null, [], [new Decibels(-70), Decibels.Silence]);
        await calls.Keep(session, reading, byHand: false, ["a.wav"]);
        await calls.Keep(session, reading with { DriftPpm = 12 }, byHand: true, []);
        await calls.Keep(session, reading with { Call = reading.Call with { Pass = 2 } }, byHand: false, []);
        await calls.Keep(session + 1000, reading, byHand: false, []);
        var kept = await calls.Of(session);
        Assert.Equal([(1, true, 12.0), (2, false, null)], kept.Select(k => (k.Pass, k.ByHand, k.Reading.DriftPpm)));
        Assert.Equal([-70, double.NegativeInfinity], kept[0].Reading.Floors.Select(f => f.Value));
        Assert.Empty(await calls.Of(other));
        Assert.Null(await _keeper.DeleteSession(session));
        Assert.Empty(await calls.Of(session));
    }

    private async Task Clear(long session)
    {
        await using var connection = await _source.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from jobs where session_id = @session and kind = 'print'", new { session });
    }

    [Fact]
    public async Task Mends_are_changed_only_by_who_saw_them_as_they_are()
    {
        var session = await Make();
        var take = await Record(session, 0);
        var proofs = new ProofStore(_source);
        var none = await proofs.Mends(take);
        Assert.Equal((0, MendList.None), (none.Mends.Count, none.Json));
        var turn = new TurnPolarity(new TrackId("t1"));
        Assert.True(await proofs.Set(take, none.Json, [turn], []));
        Assert.False(await proofs.Set(take, none.Json, [turn, turn], [])); // another window
        var one = await proofs.Mends(take);
        Assert.Equal([turn], one.Mends);
        Assert.True(await proofs.Set(take, one.Json, [], [turn]));
        Assert.Equal((0, 1, MendList.None), (await proofs.Mends(take) is var back ? (back.Mends.Count, back.Undone.Count, back.Json) : default));
        Assert.True(await proofs.Set(take, MendList.None, [turn], []));
        Assert.False(await proofs.Set(take + 1000, MendList.None, [turn], []));

        // What is on trial counts as set, and is told apart.
        var settled = await proofs.Mends(take);
        var louder = new ChangeGain([new TrackId("t1")], new Decibels(1));
        Assert.True(await proofs.Set(take, settled.Json, [turn, louder], [], 1));
        var tried = await proofs.Mends(take);
        Assert.Equal((2, 1), (tried.Mends.Count, tried.Trial));
        Assert.Equal([turn], tried.Settled.Mends); // the last ones are on trial
        Assert.Equal(0, tried.Settled.Trial);
        Assert.Equal(new ProofState(false, false, 0, true), await proofs.StateOf(session));
        Assert.True(await proofs.Set(take, tried.Json, tried.Mends, []));
        Assert.Equal(0, (await proofs.Mends(take)).Trial);
        await Assert.ThrowsAsync<PostgresException>(() => proofs.Set(take, tried.Json, [turn], [], 2));
        Assert.Equal(2, (await proofs.Mends(take)).Mends.Count);
        await proofs.Accept(take, "Clips@0", "loud on purpose");
        Assert.Equal("loud on purpose", (await proofs.Accepted(take))["Clips@0"]);
        await proofs.Accept(take, "Clips@0", null);
        Assert.Empty(await proofs.Accepted(take));
        Assert.Equal(new ProofState(false, false, 0, false), await proofs.StateOf(session));
    }

    [Fact]
    public async Task Nothing_is_deleted_that_records_or_downloads()
    {
        var session = await Make();
        var other = await Make();
        var kept = await Record(session, 0);
        var job = (await _jobs.CreatePrint(session, "{}", [1], null))[0];
        Assert.Equal("This session is printing. Stop the print or wait for its end, then delete the session.", await _keeper.DeleteSession(session));
        var pass = await _jobs.CreatePrint(other, "{}", [1, 2], null);
        await _jobs.Claim("here:1");
        var half = await _takes.Keep(NewTake(other, 1) with { PrintId = pass[0] }, pass[0]);
        Assert.Equal("This take is still being recorded. Stop the print or wait for its end, then delete the take.", await _keeper.DeleteTake(half));
        await _jobs.RequestStop(job);
        await _jobs.RequestStop(pass[1]);

        foreach (var take in new long?[] { kept, null })
        {
            await using var reading = await _readings.Begin(session, take);
            Assert.NotNull(reading);
            Assert.Equal("A zip with this take is being downloaded. Wait for its end, then delete the take.", await _keeper.DeleteTake(kept));
            Assert.Equal("A zip of this session is being downloaded. Wait for its end, then delete the session.", await _keeper.DeleteSession(session));
            Assert.Null(await _keeper.DeleteTake(half)); // another session's
        }

        Assert.Null(await _keeper.DeleteTake(kept));
        Assert.Null(await _readings.Begin(session, kept));
        Assert.Null(await _keeper.DeleteSession(session));
        Assert.Null(await _readings.Begin(session, null));
        Assert.Empty(await _jobs.CreatePrint(session, "{}", [1], null));
        Assert.Null(await _keeper.DeleteSession(other));
        Assert.Empty(_store.Files(DateTime.MaxValue));
    }

    [Fact]
    public async Task A_reader_that_died_keeps_nothing_for_ever()
    {
        var session = await Make();
        var take = await Record(session, 0);
        await using var connection = await _source.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await connection.ExecuteAsync("insert into readings (session_id, take_id, until) values (@session, @take, now() - interval '1 second')", new { session, take });
        Assert.Null(await _keeper.DeleteTake(take));
    }

    /// <summary>Several at once record, give up, delete and sweep, in any order: whatever is still there is whole.</summary>
    [Theory]
    [MemberData(nameof(Seeds))]
    public async Task In_whatever_order_things_go_every_take_that_stays_is_whole(int seed)
    {
        var sessions = new ConcurrentDictionary<long, bool>();
        for (var i = 0; i < 3; i++)
        {
            sessions[await Make()] = true;
        }

        await Task.WhenAll(Enumerable.Range(0, 4).Select(worker => Task.Run(() => Act(new Random(seed * 100 + worker), sessions))));
        foreach (var session in sessions.Keys)
        {
            foreach (var track in (await _takes.Of(session)).SelectMany(t => t.Tracks))
            {
                AssertHeld(track.Hash, track.OverviewHash);
            }
        }

        // Nothing is left over, either.
        await _keeper.Sweep(DateTime.MaxValue);
        await using var connection = await _source.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var named = await connection.QueryAsync<string>("select hash from audio_files union select overview_hash from audio_files");
        Assert.Equal(named.Order(StringComparer.Ordinal), _store.Files(DateTime.MaxValue).Order(StringComparer.Ordinal));
        Assert.True(_kept > 0, $"seed {seed} recorded nothing"); // of which nothing may be left, as the workers happen to follow each other
    }

    private async Task Act(Random random, ConcurrentDictionary<long, bool> sessions)
    {
        for (var step = 0; step < 25; step++)
        {
            var all = sessions.Keys.ToArray();
            if (all.Length == 0)
            {
                return;
            }

            var session = all[random.Next(all.Length)];
            switch (random.Next(10))
            {
                case < 5:
                    if (await TryBegin(session) is { } job)
                    {
                        int[] files = [.. Enumerable.Range(0, 1 + random.Next(3)).Select(_ => random.Next(Pool)).Distinct()];
                        await TakeIn(job, files);
                        if (random.Next(4) == 0)
                        {
                            await _keeper.LetGo(job);
                            await _jobs.End(job.Id, JobState.Stopped, "", "here:1");
                        }
                        else
                        {
                            await _takes.Keep(NewTake(session, files), job.Id);
                            Interlocked.Increment(ref _kept);
                        }
                    }

                    break;
                case < 8:
                    if (await _takes.Of(session) is { Count: > 0 } takes)
                    {
                        await _keeper.DeleteTake(takes[random.Next(takes.Count)].Id);
                    }

                    break;
                case 8:
                    await _keeper.Sweep(DateTime.MaxValue);
                    break;
                default:
                    if (random.Next(6) == 0 && await _keeper.DeleteSession(session) is null)
                    {
                        sessions.TryRemove(session, out _);
                    }

                    break;
            }
        }
    }

    private static string File(int number) => new((char)('0' + number), 32);

    /// <summary>Fewer than files: what is silent looks the same, whatever it is.</summary>
    private static string Overview(int number) => new((char)('a' + number % 3), 32);

    private void AssertHeld(params string[] hashes) => Assert.All(hashes, h => Assert.NotNull(_store.Find(h)));

    private Task<long> Make() => _sessions.Create("Lamp", MidiWriter.Write(LampLit.Session.Song), LampLit.Session.Split);

    private async Task<Job?> TryBegin(long session)
    {
        if (await _jobs.Create(session, TakeKind.BringIn, "{}") is not { } id)
        {
            return null;
        }

        await using var connection = await _source.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await connection.ExecuteAsync("update jobs set state = 'running', worker = 'here:1', started_at = now(), heartbeat_at = now() where id = @id", new { id });
        return await _jobs.Find(id);
    }

    private async Task<Job> Begin(long session) => (await TryBegin(session))!;

    private async Task TakeIn(Job job, params int[] files)
    {
        await _keeper.Hold(job, [.. files.SelectMany(f => new[] { File(f), Overview(f) })]);
        foreach (var hash in files.SelectMany(f => new[] { File(f), Overview(f) }).Distinct())
        {
            var path = Path.Combine(_store.Staging($"job-{job.Id}-{job.Tries}"), hash);
            await System.IO.File.WriteAllTextAsync(path, hash, TestContext.Current.CancellationToken);
            _store.Adopt(path, hash);
        }
    }

    private async Task<long> Record(long session, params int[] files)
    {
        var job = await Begin(session);
        await TakeIn(job, files);
        return await _takes.Keep(NewTake(session, files), job.Id);
    }

    private static NewTake NewTake(long session, params int[] files) => new(session, TakeKind.BringIn, 1, "",
    [
        .. files.Select((f, i) => new NewTake.Track(
            new TrackId($"t{i + 1}"), "Kick", null, "Kick", "port 1", File(f), 32, Overview(f),
            new FileMeasure(new AudioFormat(1, 48000, SampleFormat.Pcm24), 30, [new ChannelLevels(Decibels.Silence, Decibels.Silence, 0, 0, [], 0)], new OverviewBuilder(1).Build(), [])) { Position = i + 1 }),
    ]);
}

using Dapper;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Data.Tests;

/// <summary>A database of every version there was is brought to the present one, and nothing in it is lost.</summary>
public sealed class UpgradeTests : IAsyncDisposable
{
    private static readonly string[] Tables = ["sessions", "split_revisions", "audio_files", "measurements", "takes", "take_tracks", "jobs", "line_choices", "charts", "demo_sessions", "marks"];

    private readonly TestDatabase _database = new();

    public static TheoryData<int> Versions => [.. Fixtures.Versions];

    public async ValueTask DisposeAsync()
    {
        NpgsqlConnection.ClearAllPools();
        await _database.DisposeAsync();
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public async Task Every_row_is_there_and_every_document_can_be_read(int version)
    {
        await Restore(version);
        var before = await Counts();
        Migrator.Run(_database.ConnectionString);
        Assert.Equal(before, await Counts());
        await using var source = Database.Open(_database.ConnectionString);
        await using var connection = await source.OpenConnectionAsync();

        var sessions = new SessionStore(source);
        var revisions = (await connection.QueryAsync<(long Session, int Revision)>("select session_id, revision from split_revisions")).AsList();
        Assert.NotEmpty(revisions);
        foreach (var (session, revision) in revisions)
        {
            Assert.Null(SplitRules.FirstMisfit((await sessions.Load(session, revision))!.Split));
        }

        var rows = await new ChartStore(source).Rows();
        Assert.All(rows, r => Assert.True(r.Chart.Ok, r.Chart.Trouble));
        Assert.Equal(before["charts"], rows.Count(r => r.Revision > 0));
    }

    [Fact]
    public async Task Version_1_goes_on_where_it_was()
    {
        await Restore(1);
        Migrator.Run(_database.ConnectionString);
        await using var source = Database.Open(_database.ConnectionString);
        var (sessions, takes, jobs) = (new SessionStore(source), new TakeStore(source), new JobStore(source));
        var lamp = (await sessions.Load(1))!;
        Assert.Equal(("Lamp Lit", "Disarm Kick in"), (lamp.Name, lamp.Redo));
        Assert.Equal(12, Assert.Single(await takes.Of(1)).Tracks.Count);

        // Undone edits are made again, and new ones are of the present version.
        Assert.True(await sessions.Redo(1, lamp.Revision));
        var disarmed = (await sessions.Load(1))!;
        Assert.False(disarmed.Split.Tracks[0].Armed);
        Assert.NotNull(await sessions.Save(1, disarmed.Revision, lamp.Split, "Arm it"));
        await using var connection = await source.OpenConnectionAsync();
        Assert.Equal([1, 1, SplitVersions.Current], await connection.QueryAsync<int>("select format from split_revisions where session_id = 1 order by revision"));
        Assert.Equal("It is meant.", Assert.Single((await sessions.Load(2))!.Split.Accepted).Why);

        // What waited waits still; what ran when the program ended is known by a worker that is gone. No queue beside the table is left.
        var states = (await connection.QueryAsync<string>("select distinct state from jobs order by state")).AsList();
        Assert.Equal(["done", "failed", "interrupted", "queued", "running", "stopped"], states);
        Assert.Equal(0, await connection.ExecuteScalarAsync<long>("select count(*) from pg_namespace where nspname = 'hangfire'"));
        Assert.NotNull(await jobs.Claim("here:1"));
    }

    [Theory]
    [InlineData(-0.000266114, 0L)]
    [InlineData(-0.000265083, null)]
    [InlineData(0.0, null)]
    [InlineData(null, 0L)]
    public async Task What_was_measured_before_is_clean_only_if_its_peak_says_so(double? peak, long? fullScale)
    {
        await Restore(1);
        await using var source = Database.Open(_database.ConnectionString);
        await using (var connection = await source.OpenConnectionAsync())
        {
            await connection.ExecuteAsync("update measurements set sample_peak_dbfs = @peak", new { peak });
        }

        Migrator.Run(_database.ConnectionString);
        Assert.All(Assert.Single(await new TakeStore(source).Of(1)).Tracks, t => Assert.Equal(fullScale, t.FullScale?.Count));
    }

    private async Task Restore(int version)
    {
        await using (var server = NpgsqlDataSource.Create($"{TestDatabase.Server};Database=postgres;Pooling=false"))
        {
            await using var create = server.CreateCommand($"create database {new NpgsqlConnectionStringBuilder(_database.ConnectionString).Database}");
            await create.ExecuteNonQueryAsync();
        }

        // A connection of its own: the dump changes its search path.
        await using var source = NpgsqlDataSource.Create($"{_database.ConnectionString};Pooling=false");
        await using var restore = source.CreateCommand(Fixtures.Database(version));
        await restore.ExecuteNonQueryAsync();
    }

    private async Task<Dictionary<string, long>> Counts()
    {
        await using var source = NpgsqlDataSource.Create($"{_database.ConnectionString};Pooling=false");
        await using var connection = await source.OpenConnectionAsync();
        var counts = new Dictionary<string, long>();
        foreach (var table in Tables)
        {
            counts[table] = await connection.ExecuteScalarAsync<long>($"select count(*) from {table}");
        }

        return counts;
    }
}

using Dapper;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
using GateSplit.Tests.Shared;
using Npgsql;

namespace GateSplit.Data.Tests;

/// <summary>How far the sessions that ship are.</summary>
public sealed class DemoStoreTests : IAsyncLifetime
{
    private readonly TestDatabase _database = new();
    private NpgsqlDataSource _source = null!;
    private SessionStore _sessions = null!;
    private DemoStore _demos = null!;

    public async ValueTask InitializeAsync()
    {
        Migrator.Run(_database.ConnectionString);
        _source = Database.Open(_database.ConnectionString);
        _sessions = new SessionStore(_source);
        _demos = new DemoStore(_source, _sessions);
        await _demos.Add("Fog Signal", MidiWriter.Write(DemoSessions.All[1].Song), DemoSessions.All[1].Split);
    }

    public async ValueTask DisposeAsync()
    {
        await _source.DisposeAsync();
        await _database.DisposeAsync();
    }

    [Fact]
    public async Task A_step_that_edits_is_kept_together_with_how_far_the_session_is()
    {
        var (start, split) = await Now();
        var fewer = split with { Tracks = split.Tracks.RemoveAt(0) };
        Assert.Equal(start with { StepsDone = 1, Revision = 2 }, await _demos.Save(start, fewer, "Delete Kick"));
        var (next, there) = await Now();
        Assert.Equal((1, 2), (next.StepsDone, next.Revision));
        Assert.Equal(SplitJson.Write(fewer), SplitJson.Write(there));

        // Somebody changed it meanwhile: neither is kept.
        Assert.Equal(3, await _sessions.Save(next.SessionId, 2, split, "Undo it by hand"));
        Assert.Null(await _demos.Save(next, fewer, "Delete Kick"));
        Assert.Equal(SplitJson.Write(split), SplitJson.Write((await Now()).Split));
        Assert.Equal(next, (await Now()).Progress);
    }

    [Fact]
    public async Task An_edit_is_not_kept_when_how_far_the_session_is_cannot_be()
    {
        var (start, split) = await Now();
        await using (var connection = await _source.OpenConnectionAsync())
        {
            await connection.ExecuteAsync("""
                create function refuse() returns trigger language plpgsql as $$ begin raise exception 'killed here'; end $$;
                create trigger refuse before update on demo_sessions for each row execute function refuse();
                """);
        }

        await Assert.ThrowsAsync<PostgresException>(() => _demos.Save(start, split with { Tracks = split.Tracks.RemoveAt(0) }, "Delete Kick"));
        var (next, there) = await Now();
        Assert.Equal(start, next);
        Assert.Equal(1, (await _sessions.Head(start.SessionId))!.Revision);
        Assert.Equal(SplitJson.Write(split), SplitJson.Write(there));
    }

    private async Task<(DemoProgress Progress, Split Split)> Now()
    {
        var progress = Assert.Single(await _demos.All());
        return (progress, (await _sessions.Load(progress.SessionId))!.Split);
    }
}

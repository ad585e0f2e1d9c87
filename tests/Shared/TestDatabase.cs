using Npgsql;

namespace GateSplit.Tests.Shared;

/// <summary>A database of its own on the server that the test command started.</summary>
public sealed class TestDatabase : IAsyncDisposable
{
    private readonly string _name = $"gs_{Guid.NewGuid():N}";

    /// <summary>The server; a run without one fails, it never skips.</summary>
    public static string Server => Environment.GetEnvironmentVariable("GATESPLIT_TEST_DB")
        ?? throw new InvalidOperationException("GATESPLIT_TEST_DB must name a PostgreSQL server; ./test starts one.");

    /// <summary>Where the server listens.</summary>
    public static int Port => new NpgsqlConnectionStringBuilder(Server).Port;

    /// <summary>The connection string of this database.</summary>
    public string ConnectionString => $"{Server};Database={_name};Timeout=15"; // a busy machine takes its time to connect

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await using var server = NpgsqlDataSource.Create($"{Server};Database=postgres;Pooling=false");
        await Waiting.Until(() => Drop(server), "the database is dropped");
    }

    /// <summary>Drops it; while the server's own process vacuums in it, which only its owner may end, it cannot be dropped.</summary>
    private async Task<bool> Drop(NpgsqlDataSource server)
    {
        try
        {
            await using var drop = server.CreateCommand($"drop database if exists {_name} with (force)");
            await drop.ExecuteNonQueryAsync();
            return true;
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.InsufficientPrivilege)
        {
            return false;
        }
    }
}

using Dapper;
using Npgsql;

namespace GateSplit.Data;

/// <summary>
/// Keeps those who take files into the audio store apart from those who remove what no row names: between the look at the rows and the
/// removal of the file nobody begins to name it.
/// </summary>
internal static class StoreLock
{
    private const long Key = 0x676174653031;

    /// <summary>Rows that name files are written, beside others who do the same, until the transaction ends.</summary>
    public static Task Share(NpgsqlConnection connection, NpgsqlTransaction transaction) =>
        connection.ExecuteAsync("select pg_advisory_xact_lock_shared(@Key)", new { Key }, transaction);

    /// <summary>Nobody else writes such rows until this is disposed.</summary>
    public static async Task<IAsyncDisposable> Alone(NpgsqlConnection connection)
    {
        await connection.ExecuteAsync("select pg_advisory_lock(@Key)", new { Key });
        return new Held(connection);
    }

    private sealed class Held(NpgsqlConnection connection) : IAsyncDisposable
    {
        public async ValueTask DisposeAsync()
        {
            // A connection that broke has let it go by itself.
            if (connection.State == System.Data.ConnectionState.Open)
            {
                await connection.ExecuteAsync("select pg_advisory_unlock(@Key)", new { Key });
            }
        }
    }
}

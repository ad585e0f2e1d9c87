using Microsoft.Extensions.Logging;
using Npgsql;

namespace GateSplit.Jobs;

/// <summary>Tries again while the database is away for a moment.</summary>
public static class Resilient
{
    private static readonly TimeSpan Limit = TimeSpan.FromMinutes(5);
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    /// <summary>Runs something that asks the database, for up to five minutes until it answers.</summary>
    internal static async Task<T> Run<T>(Func<Task<T>> action, ILogger log)
    {
        var until = DateTime.UtcNow + Limit;
        while (true)
        {
            try
            {
                return await action();
            }
            catch (Exception e) when (IsOutage(e) && DateTime.UtcNow < until)
            {
                log.LogWarning("The database does not answer ({Message}); trying again.", e.Message);
                await Task.Delay(Pause);
            }
        }
    }

    /// <inheritdoc cref="Run{T}"/>
    internal static Task Run(Func<Task> action, ILogger log) => Run(
        async () =>
        {
            await action();
            return true;
        },
        log);

    /// <summary>True if the database is there, and took longer than anybody waits: what was asked for may have been done or not.</summary>
    public static bool IsSlow(Exception e) =>
        e is TimeoutException or NpgsqlException { InnerException: TimeoutException } or PostgresException { SqlState: PostgresErrorCodes.QueryCanceled };

    /// <summary>True if the database was not there, rather than refused.</summary>
    public static bool IsOutage(Exception e) =>
        e is NpgsqlException { IsTransient: true } or PostgresException { SqlState: "57P01" or "57P02" or "57P03" } or TimeoutException
        || e.InnerException is System.Net.Sockets.SocketException or EndOfStreamException;
}

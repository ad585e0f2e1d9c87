using GateSplit.Data;
using GateSplit.Jobs;
using Npgsql;

namespace GateSplit.Web.Hosting;

/// <summary>Brings the database up to date before a server starts.</summary>
public static class DatabaseAtStart
{
    private static readonly TimeSpan Limit = TimeSpan.FromMinutes(1);
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    /// <summary>Migrates it; one that does not answer yet is waited for.</summary>
    /// <param name="connectionString">Of the database.</param>
    /// <param name="said">Told that it is waited for.</param>
    /// <returns>A sentence on why the server cannot start; null if it can.</returns>
    public static async Task<string?> Prepare(string connectionString, TextWriter said)
    {
        var until = DateTime.UtcNow + Limit;
        for (var told = false; ; told = true)
        {
            try
            {
                Migrator.Run(connectionString);
                return null;
            }
            catch (Exception e) when ((Resilient.IsOutage(e) || (e.InnerException is { } inner && Resilient.IsOutage(inner))) && DateTime.UtcNow < until)
            {
                if (!told)
                {
                    await said.WriteLineAsync($"The database does not answer yet ({e.Message}); waiting for it.");
                }

                await Task.Delay(Pause);
            }
            catch (Exception e) when (e is NpgsqlException or InvalidOperationException)
            {
                return $"Gate Split cannot start without its database. {e.Message}";
            }
        }
    }
}

using GateSplit.Data;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Tells jobs whose worker is gone as interrupted, and clears what they left in the staging folders.</summary>
public sealed class Sweeper(JobStore jobs, IAudioStore store, ILogger<Sweeper> log) : BackgroundService
{
    private static readonly TimeSpan Interval = TimeSpan.FromSeconds(3);
    private static readonly TimeSpan SilentFor = TimeSpan.FromSeconds(20);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                if (await jobs.InterruptAbandoned(SilentFor, [.. (await jobs.Workers()).Where(WorkerName.IsGone)]) > 0)
                {
                    await Clear();
                }
            }
            catch (Exception e) when (Resilient.IsOutage(e))
            {
                log.LogWarning("The database does not answer: {Message}", e.Message);
            }

            await Task.Delay(Interval, stoppingToken).ContinueWith(_ => { }, TaskScheduler.Default);
        }
    }

    private async Task Clear()
    {
        var active = await jobs.Active();
        foreach (var name in store.StagingNames().Where(n => n.StartsWith("job-", StringComparison.Ordinal)))
        {
            if (long.TryParse(name.AsSpan("job-".Length), out var id) && !active.Contains(id))
            {
                store.Discard(name);
            }
        }
    }
}

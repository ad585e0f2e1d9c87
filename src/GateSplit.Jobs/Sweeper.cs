using GateSplit.Data;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Tells jobs whose worker is gone as interrupted, and clears what they left in the staging folders.</summary>
public sealed class Sweeper(JobStore jobs, IAudioStore store, ILogger<Sweeper> log) : BackgroundService
{
    private static readonly TimeSpan Interval = TimeSpan.FromSeconds(3);
    private static readonly TimeSpan SilentFor = TimeSpan.FromSeconds(20);

    private readonly DateTime _started = DateTime.UtcNow;

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await ClearUploads();
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

    /// <summary>Uploads that were cut off by the end of an earlier process, and that no job waits for.</summary>
    private async Task ClearUploads()
    {
        var old = store.StagingNames()
            .Where(n => n.StartsWith("upload-", StringComparison.Ordinal) && store.StagedAt(n) < _started)
            .ToList();
        if (old.Count == 0)
        {
            return;
        }

        var wanted = await jobs.ActiveRequests();
        foreach (var name in old.Where(n => !wanted.Any(r => r.Contains(n, StringComparison.Ordinal))))
        {
            store.Discard(name);
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

using GateSplit.Data;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>
/// Does the jobs that wait, one at a time: a pass uses every core itself. The queue is the table of jobs, so that what a page shows, what
/// waits and what is done cannot disagree; <see cref="JobStore.Claim"/> is fair between sessions.
/// </summary>
internal sealed class JobWorker(JobStore jobs, JobRunner runner, IEnumerable<IJob> kinds, JobBell bell, ILogger<JobWorker> log) : BackgroundService
{
    private static readonly TimeSpan Glance = TimeSpan.FromMilliseconds(500);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                if (await jobs.Claim(WorkerName.Own) is { } job)
                {
                    await runner.Run(job, kinds.First(k => k.Kind == job.Kind), stoppingToken);
                }
                else
                {
                    await bell.Wait(Glance, stoppingToken);
                }
            }
            catch (Exception e) when (Resilient.IsOutage(e))
            {
                log.LogWarning("The database does not answer: {Message}", e.Message);
                await Task.Delay(Glance, stoppingToken).ContinueWith(_ => { }, TaskScheduler.Default);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
        }
    }
}

using GateSplit.Data;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>
/// Looks after jobs whose worker is gone. While this process lives it takes their passes over; what it finds when it
/// starts, nobody else has wanted: that is told as interrupted and offered again. Their staging folders are cleared.
/// </summary>
public sealed class Sweeper(JobStore jobs, AudioKeeper keeper, JobBell bell, IAudioStore store, ILogger<Sweeper> log) : BackgroundService
{
    private static readonly TimeSpan Interval = TimeSpan.FromSeconds(3);
    private static readonly TimeSpan SilentFor = TimeSpan.FromSeconds(20);

    private static readonly TimeSpan Abandoned = TimeSpan.FromDays(1);

    private static readonly TimeSpan BetweenSweeps = TimeSpan.FromHours(1);
    private static readonly TimeSpan Settled = TimeSpan.FromHours(1);

    private readonly DateTime _started = DateTime.UtcNow;
    private DateTime _nextSweep = DateTime.UtcNow;

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        for (var isFirst = true; !stoppingToken.IsCancellationRequested;)
        {
            try
            {
                await ClearUploads();
                IReadOnlyList<string> gone = [.. (await jobs.Workers()).Where(WorkerName.IsGone)];
                var again = isFirst ? [] : await jobs.TakeOver(SilentFor, gone);
                foreach (var id in again)
                {
                    log.LogWarning("Job {Job} is taken over from a worker that is gone", id);
                    bell.Ring();
                }

                if (await jobs.InterruptAbandoned(SilentFor, gone) > 0 || again.Count > 0)
                {
                    await Clear();
                }

                isFirst = false;
                await SweepStore(stoppingToken);
            }
            catch (Exception e) when (Resilient.IsOutage(e))
            {
                log.LogWarning("The database does not answer: {Message}", e.Message);
            }

            await Task.Delay(Interval, stoppingToken).ContinueWith(_ => { }, TaskScheduler.Default);
        }
    }

    /// <summary>
    /// Uploads that were cut off by the end of an earlier process, and whatever nobody has gone on with for a day: an
    /// upload that can be resumed, files that were never cut, what a download was made in.
    /// </summary>
    private async Task ClearUploads()
    {
        bool IsOld(string name) => store.StagedAt(name) < DateTime.UtcNow - Abandoned
            || (name.StartsWith(BroughtFolder.Prefix, StringComparison.Ordinal) && store.StagedAt(name) < _started && BroughtFolder.IsCutOff(store, name));

        var old = store.StagingNames()
            .Where(n => new[] { BroughtFolder.Prefix, ResumableUpload.Prefix, HandoffMaterials.StagingPrefix }.Any(p => n.StartsWith(p, StringComparison.Ordinal)) && IsOld(n))
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

    /// <summary>What was left by a program that was killed while it took files in.</summary>
    private async Task SweepStore(CancellationToken cancel)
    {
        if (DateTime.UtcNow < _nextSweep)
        {
            return;
        }

        var sweep = await keeper.Sweep(DateTime.UtcNow - Settled, cancel);
        _nextSweep = DateTime.UtcNow + BetweenSweeps;
        if (sweep.Removed > 0)
        {
            log.LogInformation("{Files} files in the audio store belonged to nothing and were removed", sweep.Removed);
        }

        if (sweep.Missing.Count > 0)
        {
            log.LogError("{Files} recordings are not in the audio store any more, the first of them {Hash}", sweep.Missing.Count, sweep.Missing[0]);
        }
    }

    /// <summary>True of "job-7-1" if job 7 neither waits nor runs, or is at a later try.</summary>
    private static bool IsOver(string name, IReadOnlyDictionary<long, int> active) =>
        name.Split('-') is [_, var job, var tries] && long.TryParse(job, out var id) && int.TryParse(tries, out var number)
        && (!active.TryGetValue(id, out var current) || number < current);

    private async Task Clear()
    {
        var active = await jobs.Active();
        foreach (var name in store.StagingNames().Where(n => n.StartsWith("job-", StringComparison.Ordinal)))
        {
            if (IsOver(name, active))
            {
                store.Discard(name);
            }
        }
    }
}

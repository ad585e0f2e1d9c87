using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>What every job has in common: it starts once, it can be stopped, it leaves a take or a sentence, and never half a file.</summary>
/// <param name="jobs">The jobs.</param>
/// <param name="takes">The takes.</param>
/// <param name="store">The audio store.</param>
/// <param name="log">For the operator.</param>
public sealed class JobRunner(JobStore jobs, TakeStore takes, IAudioStore store, ILogger<JobRunner> log)
{
    /// <summary>Runs the work of a waiting job.</summary>
    /// <param name="jobId">The job.</param>
    /// <param name="shutdown">Set when the program ends.</param>
    /// <param name="work">Makes the take in a staging folder; throws <see cref="JobRefused"/> with a sentence where it cannot.</param>
    internal async Task Run(long jobId, CancellationToken shutdown, Func<Job, string, JobPulse, Task<NewTake>> work)
    {
        if (!await Resilient.Run(() => jobs.Start(jobId, WorkerName.Own), log) || await Resilient.Run(() => jobs.Find(jobId), log) is not { } job)
        {
            return;
        }

        // Each try works in a folder of its own: a worker that was thought to be gone may still write into its.
        var staging = $"job-{jobId}-{job.Tries}";
        try
        {
            NewTake take;
            await using (var pulse = new JobPulse(jobId, jobs, log, shutdown))
            {
                try
                {
                    take = await Task.Run(() => work(job, store.Staging(staging), pulse), CancellationToken.None);
                }
                catch (OperationCanceledException) when (pulse.IsTakenOver)
                {
                    log.LogWarning("Job {Job} belongs to another worker by now", jobId);
                    store.Discard(staging);
                    return;
                }
            }

            await Resilient.Run(() => takes.Keep(take, jobId), log);
            store.Discard(staging);
        }
        catch (OperationCanceledException) when (shutdown.IsCancellationRequested)
        {
            await End(jobId, staging, JobState.Interrupted, "The program was ended while this ran. Nothing half-written was kept; start it again.");
        }
        catch (OperationCanceledException)
        {
            await End(jobId, staging, JobState.Stopped, "Stopped. Nothing was kept of it.");
        }
        catch (JobRefused e)
        {
            await End(jobId, staging, JobState.Failed, e.Message);
        }
        catch (Exception e) when (FindIo(e) is { } io)
        {
            log.LogWarning(e, "Job {Job} was refused by the disk", jobId);
            await End(jobId, staging, JobState.Failed, $"{DiskSentence(io)} Nothing half-written was kept.");
        }
        catch (Exception e)
        {
            log.LogError(e, "Job {Job} failed", jobId);
            await End(jobId, staging, JobState.Failed, "This could not be finished because of a fault in the program; its log tells more. Nothing half-written was kept.");
        }
    }

    private static IOException? FindIo(Exception e) =>
        e as IOException ?? e.InnerException as IOException ?? (e as AggregateException)?.Flatten().InnerExceptions.OfType<IOException>().FirstOrDefault();

    private static string DiskSentence(IOException e)
    {
        const int noSpace = 28; // ENOSPC
        return (e.HResult & 0xFFFF) == noSpace || e.Message.Contains("No space left", StringComparison.OrdinalIgnoreCase)
            ? "The disk is full. Make room and start it again."
            : $"The disk refused: {e.Message}";
    }

    /// <summary>Clears the work away before anybody is told that it has ended.</summary>
    private Task End(long jobId, string staging, string state, string sentence)
    {
        store.Discard(staging);
        return Resilient.Run(() => jobs.End(jobId, state, sentence, WorkerName.Own), log);
    }
}

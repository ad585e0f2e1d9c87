using GateSplit.Core;
using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>What every job has in common: it starts once, it can be stopped, it leaves a take or a sentence, and never half a file.</summary>
/// <param name="jobs">The jobs.</param>
/// <param name="takes">The takes.</param>
/// <param name="keeper">Removes what a job took in and did not keep.</param>
/// <param name="store">The audio store.</param>
/// <param name="proofs">Whether takes are looked at by themselves.</param>
/// <param name="log">For the operator.</param>
public sealed class JobRunner(JobStore jobs, TakeStore takes, AudioKeeper keeper, IAudioStore store, ProofPolicy proofs, ILogger<JobRunner> log)
{
    /// <summary>Runs a job that this worker has claimed.</summary>
    /// <param name="job">The job.</param>
    /// <param name="kind">Does it.</param>
    /// <param name="shutdown">Set when the program ends.</param>
    internal async Task Run(Job job, IJob kind, CancellationToken shutdown)
    {
        var jobId = job.Id;
        log.LogInformation("Job {Job} ({Kind}, session {Session}, pass {Pass}) begins, try {Try}", jobId, job.Kind, job.SessionId, job.Pass, job.Tries);

        // Each try works in a folder of its own: a worker that was thought to be gone may still write into its.
        var staging = $"job-{jobId}-{job.Tries}";
        try
        {
            NewTake? take;
            await using (var pulse = new JobPulse(jobId, jobs, log, shutdown))
            {
                try
                {
                    take = await Task.Run(() => kind.Make(job, store.Staging(staging), pulse), CancellationToken.None);
                }
                catch (OperationCanceledException) when (pulse.IsTakenOver)
                {
                    log.LogWarning("Job {Job} belongs to another worker by now", jobId);
                    store.Discard(staging);
                    return;
                }
            }

            if (take is null)
            {
                await Resilient.Run(() => jobs.End(jobId, JobState.Done, "", WorkerName.Own), log);
            }
            else
            {
                var kept = await Resilient.Run(() => takes.Keep(take, jobId), log);
                await Resilient.Run(() => AskProof(job, kept), log);
            }

            store.Discard(staging);
            kind.Clear(job);
            log.LogInformation("Job {Job} is done", jobId);
        }
        catch (OperationCanceledException) when (shutdown.IsCancellationRequested)
        {
            await End(job, kind, staging, JobState.Interrupted, "The program was ended while this ran. Nothing half-written was kept; start it again.");
        }
        catch (OperationCanceledException)
        {
            await End(job, kind, staging, JobState.Stopped, "Stopped. Nothing was kept of it.");
        }
        catch (JobRefused e)
        {
            await End(job, kind, staging, JobState.Failed, e.Message);
        }
        catch (Exception e) when (FindIo(e) is { } io)
        {
            log.LogWarning(e, "Job {Job} was refused by the disk", jobId);
            await End(job, kind, staging, JobState.Failed, $"{DiskSentence(io)} Nothing half-written was kept.");
        }
        catch (Exception e)
        {
            log.LogError(e, "Job {Job} failed", jobId);
            await End(job, kind, staging, JobState.Failed, "This could not be finished because of a fault in the program; its log tells more. Nothing half-written was kept.");
        }
    }

    /// <summary>A take is looked at as soon as it is whole: when no other pass of its print waits or runs.</summary>
    private async Task AskProof(Job job, long takeId)
    {
        if (proofs.ByItself && !(await jobs.Current(job.SessionId)).Any(j => j.IsActive && j.PrintId is { } print && print == job.PrintId))
        {
            await jobs.AskProof(job.SessionId, takeId);
        }
    }

    private static IOException? FindIo(Exception e) =>
        e as IOException ?? e.InnerException as IOException ?? (e as AggregateException)?.Flatten().InnerExceptions.OfType<IOException>().FirstOrDefault();

    private static string DiskSentence(IOException e) =>
        FullDisk.Is(e) ? "The disk is full. Make room and start it again." : $"The disk refused: {e.Message}";

    /// <summary>Clears the work away before anybody is told that it has ended.</summary>
    private async Task End(Job job, IJob kind, string staging, string state, string sentence)
    {
        log.LogInformation("Job {Job} ends as {State}: {Sentence}", job.Id, state, sentence);
        store.Discard(staging);
        kind.Clear(job);
        await Resilient.Run(() => keeper.LetGo(job), log);
        await Resilient.Run(() => jobs.End(job.Id, state, sentence, WorkerName.Own), log);
    }
}

using System.Text.Json;
using GateSplit.Core.Splits;
using GateSplit.Data;
using Hangfire;

namespace GateSplit.Jobs;

/// <summary>Puts jobs into the queue.</summary>
public sealed class JobQueue(JobStore jobs, IBackgroundJobClient hangfire)
{
    /// <summary>Prints passes of a session, one after the other, or side by side if there are several workers.</summary>
    /// <param name="sessionId">The session.</param>
    /// <param name="request">What is recorded.</param>
    /// <param name="passes">The passes, from 1.</param>
    /// <param name="printId">The print that is gone on with; null for a new take.</param>
    /// <returns>False if the session already has a job that waits or runs.</returns>
    public async Task<bool> Print(long sessionId, PrintRequest request, IReadOnlyList<int> passes, long? printId = null)
    {
        var ids = await jobs.CreatePrint(sessionId, JsonSerializer.Serialize(request, SplitJson.Options), passes, printId);
        foreach (var id in ids)
        {
            Enqueue(id, TakeKind.Print);
        }

        return ids.Count > 0;
    }

    /// <summary>Hands a job that waits to the workers. Told of it twice, they do it once.</summary>
    internal void Enqueue(long id, string kind)
    {
        if (kind == TakeKind.Print)
        {
            hangfire.Enqueue<PrintJob>(j => j.Run(id, CancellationToken.None));
        }
        else
        {
            hangfire.Enqueue<BringInJob>(j => j.Run(id, CancellationToken.None));
        }
    }

    /// <summary>Cuts a recording that was brought in.</summary>
    /// <returns>The job, or null if the session already has one that waits or runs.</returns>
    public async Task<long?> BringIn(long sessionId, BringInRequest request)
    {
        var id = await jobs.Create(sessionId, TakeKind.BringIn, JsonSerializer.Serialize(request, SplitJson.Options));
        if (id is { } job)
        {
            Enqueue(job, TakeKind.BringIn);
        }

        return id;
    }
}

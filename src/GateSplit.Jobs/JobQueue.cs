using System.Text.Json;
using GateSplit.Core.Splits;
using GateSplit.Data;
using Hangfire;

namespace GateSplit.Jobs;

/// <summary>Puts jobs into the queue.</summary>
public sealed class JobQueue(JobStore jobs, IBackgroundJobClient hangfire)
{
    /// <summary>Prints a session.</summary>
    /// <returns>The job, or null if the session already has one that waits or runs.</returns>
    public async Task<long?> Print(long sessionId)
    {
        var id = await jobs.Create(sessionId, TakeKind.Print, "{}");
        if (id is { } job)
        {
            hangfire.Enqueue<PrintJob>(j => j.Run(job, CancellationToken.None));
        }

        return id;
    }

    /// <summary>Cuts a recording that was brought in.</summary>
    /// <returns>The job, or null if the session already has one that waits or runs.</returns>
    public async Task<long?> BringIn(long sessionId, BringInRequest request)
    {
        var id = await jobs.Create(sessionId, TakeKind.BringIn, JsonSerializer.Serialize(request, SplitJson.Options));
        if (id is { } job)
        {
            hangfire.Enqueue<BringInJob>(j => j.Run(job, CancellationToken.None));
        }

        return id;
    }
}

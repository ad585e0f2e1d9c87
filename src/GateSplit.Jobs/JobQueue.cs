using System.Text.Json;
using GateSplit.Core.Splits;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>Puts jobs into the queue.</summary>
public sealed class JobQueue(JobStore jobs, JobBell bell)
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
        bell.Ring();
        return ids.Count > 0;
    }

    /// <summary>Says what a take really holds.</summary>
    public async Task Prove(long sessionId, long takeId)
    {
        await jobs.AskProof(sessionId, takeId);
        bell.Ring();
    }

    /// <summary>Reads a roll call.</summary>
    /// <returns>False if one of the session is being read already.</returns>
    public async Task<bool> ReadRollCall(long sessionId, RollCallRequest request)
    {
        var asked = await jobs.AskBeside(sessionId, JobKind.RollCall, JsonSerializer.Serialize(request, SplitJson.Options));
        bell.Ring();
        return asked;
    }

    /// <summary>Makes a handoff.</summary>
    /// <returns>False if one of the session is being made already.</returns>
    public async Task<bool> HandOff(long sessionId, HandoffRequest request)
    {
        var asked = await jobs.AskBeside(sessionId, JobKind.Handoff, JsonSerializer.Serialize(request, SplitJson.Options));
        bell.Ring();
        return asked;
    }

    /// <summary>Brings a whole session in.</summary>
    /// <returns>The job.</returns>
    public async Task<long> BringSessionIn(SessionInRequest request)
    {
        var id = await jobs.AskSessionIn(JsonSerializer.Serialize(request, SplitJson.Options));
        bell.Ring();
        return id;
    }

    /// <summary>Cuts a recording that was brought in.</summary>
    /// <returns>The job, or null if the session already has one that waits or runs.</returns>
    public async Task<long?> BringIn(long sessionId, BringInRequest request)
    {
        var id = await jobs.Create(sessionId, TakeKind.BringIn, JsonSerializer.Serialize(request, SplitJson.Options));
        bell.Ring();
        return id;
    }
}

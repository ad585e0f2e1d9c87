using System.Text.Json;
using GateSplit.Core.Handoff;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Makes the record of a handoff: measures what nobody has measured, makes each file once to know its bytes, and keeps nothing of the audio.</summary>
internal sealed class HandoffJob(SessionStore sessions, ReadingStore readings, HandoffMaterials materials, HandoffStore handoffs, IAudioStore store, ILogger<HandoffJob> log) : IJob
{
    private const double MeasureShare = 0.5;

    /// <inheritdoc/>
    public string Kind => JobKind.Handoff;

    /// <inheritdoc/>
    public void Clear(Job job)
    {
        // What had to be written lies in its staging folder.
    }

    /// <inheritdoc/>
    public async Task<NewTake?> Make(Job job, string folder, JobPulse pulse)
    {
        var request = JsonSerializer.Deserialize<HandoffRequest>(job.Request, SplitJson.Options)!;
        await using var reading = await Resilient.Run(() => readings.Begin(job.SessionId, null), log) ?? throw new JobRefused("The session is gone.");
        var state = await Resilient.Run(() => sessions.Load(job.SessionId), log) ?? throw new JobRefused("The session is gone.");
        var gathered = await Resilient.Run(() => materials.Of(state, request.TakeId, request.Others), log);
        if (!gathered.Ok)
        {
            throw new JobRefused(gathered.Trouble);
        }

        var (material, made) = (gathered.Value, DateTime.Now);
        var plan = HandoffPlan.Of(material, request.Wish, made);
        if (!plan.Ok)
        {
            throw new JobRefused(plan.Trouble);
        }

        if (plan.Value.Files.IsEmpty)
        {
            throw new JobRefused("Nothing is ticked, so nothing would leave.");
        }

        var maker = new HandoffMaker(store.Find, folder);
        var files = maker.Measured(plan.Value.Files, new Part(pulse, 0, MeasureShare), pulse.Stop);
        var written = await maker.WriteAll(files, new NowhereTarget(), new Part(pulse, MeasureShare, 1 - MeasureShare), pulse.Stop);
        var record = new HandoffRecord(material.Session, made, request.Wish, written, HandoffPapers.Of(material, written, made));
        var length = await ZipTarget.Length(record.Lengths, pulse.Stop);
        await Resilient.Run(() => handoffs.Keep(job.SessionId, string.Join("; ", material.Takes.Select(t => t.Words)), record, new Bytes(length)), log);
        return null;
    }
}

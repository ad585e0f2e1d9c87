using GateSplit.Core;
using GateSplit.Core.StandIns;
using GateSplit.Data;
using Hangfire;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Prints the armed tracks of a session on the stand-ins.</summary>
public sealed class PrintJob(JobRunner runner, SessionStore sessions, TakeParts parts, IAudioStore store, ILogger<PrintJob> log)
{
    /// <summary>Share of the progress that is the pass itself; the rest is taking the files into the store.</summary>
    private const double PassShare = 0.8;

    /// <summary>Runs it.</summary>
    [AutomaticRetry(Attempts = 0)]
    public Task Run(long jobId, CancellationToken shutdown) => runner.Run(jobId, shutdown, Print);

    private async Task<NewTake> Print(Job job, string folder, JobPulse pulse)
    {
        var state = await Resilient.Run(() => sessions.Load(job.SessionId), log) ?? throw new JobRefused("The session is gone.");
        var session = OpenSession.Of(state);
        var recorder = new StandInRecorder(session.Lines, session.Song) { Threads = Environment.ProcessorCount };
        if (recorder.Refusal() is { } refusal)
        {
            throw new JobRefused(refusal);
        }

        var needed = Core.Planning.PassTimes.Of(session.Lines, session.Song).Bytes;
        if (needed > store.FreeBytes)
        {
            throw new JobRefused($"The disk is too full: the pass writes {Words.Size(needed)}, and {Words.Size(store.FreeBytes)} are free. Nothing was printed.");
        }

        var printed = recorder.Print(
            track => Path.Combine(folder, $"{track.Id}.wav"), DateTime.Now, new Part(pulse, 0, PassShare), pulse.Stop);
        var adopted = await parts.Adopt(session.Lines, printed, new Part(pulse, PassShare, 1 - PassShare), pulse.Stop);
        return new NewTake(job.SessionId, TakeKind.Print, state.Revision, "", adopted);
    }
}

using System.Globalization;
using System.Text.Json;
using GateSplit.Core;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Prints the armed tracks of a session on the stand-ins.</summary>
internal sealed class PrintJob(SessionStore sessions, TakeParts parts, IAudioStore store, ILogger<PrintJob> log) : IJob
{
    /// <summary>Share of the progress that is the pass itself; the rest is taking the files into the store.</summary>
    private const double PassShare = 0.8;

    /// <inheritdoc/>
    public string Kind => TakeKind.Print;

    /// <inheritdoc/>
    public void Clear(Job job)
    {
        // A pass keeps nothing but its staging folder.
    }

    /// <inheritdoc/>
    public async Task<NewTake?> Make(Job job, string folder, JobPulse pulse)
    {
        var request = JsonSerializer.Deserialize<PrintRequest>(job.Request, SplitJson.Options)!;
        var state = await Resilient.Run(() => sessions.Load(job.SessionId, request.Revision), log) ?? throw new JobRefused("The session is gone.");
        var session = OpenSession.Of(state);
        var plan = PrintPlan.For(session.Lines, request.Kind);
        if (!plan.Ok)
        {
            throw new JobRefused(plan.Trouble);
        }

        var lines = plan.Value;
        var recorder = new StandInRecorder(lines, session.Song)
        {
            Threads = Environment.ProcessorCount,
            Only = request.Tracks.Count == 0 ? null : request.Tracks.ToHashSet(),
            Enough = pulse.Enough,
            Levels = levels => pulse.ReportLevels(string.Join('\n', levels.Select(l => string.Create(CultureInfo.InvariantCulture, $"{lines.Split.Track(l.TrackId)!.Title}\t{l.Peak:0.####}")))),
        };
        if (recorder.Refusal() is { } refusal)
        {
            throw new JobRefused(refusal);
        }

        var times = PassTimes.Of(lines, session.Song);
        var needed = times.Bytes;
        if (needed > store.FreeBytes)
        {
            throw new JobRefused($"The disk is too full: the pass writes {needed}, and {store.FreeBytes} are free. Nothing was printed.");
        }

        // The files bear the time at which the print was asked for, so a pass that is taken over gives the same bytes.
        var printed = recorder.PrintPass(
            job.Pass, track => Path.Combine(folder, $"{track.Id}.wav"), job.CreatedAt.ToLocalTime(), new Part(pulse, 0, PassShare), pulse.Gone);
        var recorded = printed.Select(p => p.Measure.Frames).DefaultIfEmpty().Max();
        if (recorded == 0)
        {
            throw new JobRefused("Stopped before anything was recorded. Nothing was kept of it.");
        }

        var remark = recorded == times.Frames
            ? ""
            : $"stopped early: {Words.Clock(recorded.Seconds(times.SampleRate))} of {Words.Clock(times.Seconds)}";
        var adopted = await parts.Adopt(job, lines, printed, new Part(pulse, PassShare, 1 - PassShare), pulse.Gone);
        return new NewTake(
            job.SessionId,
            TakeKind.Print,
            state.Revision,
            PrintPlan.Note(request.Kind),
            [.. adopted.Select(t => t with { Position = PositionOf(lines, t), Pass = job.Pass, Remark = remark })])
        {
            PrintId = job.PrintId,
            Notes = MidiWriter.Write(NoteTracks.Of(session.Song.File, session.Lines)),
        };
    }

    private static int PositionOf(SplitView lines, NewTake.Track track) => lines.Split.Tracks.ToList().FindIndex(t => t.Id == track.TrackId) + 1;
}

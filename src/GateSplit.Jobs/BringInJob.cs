using System.Text.Json;
using GateSplit.Core;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Data;
using Hangfire;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Cuts a many-channel recording by the inputs of the split, one file a track, bit-exactly.</summary>
public sealed class BringInJob(JobRunner runner, SessionStore sessions, TakeParts parts, IAudioStore store, ILogger<BringInJob> log)
{
    private const double CutShare = 0.4;
    private const double MeasureShare = 0.4;

    /// <summary>Runs it.</summary>
    [AutomaticRetry(Attempts = 0)]
    public async Task Run(long jobId, CancellationToken shutdown)
    {
        BringInRequest? request = null;
        await runner.Run(jobId, shutdown, (job, folder, pulse) =>
        {
            request = JsonSerializer.Deserialize<BringInRequest>(job.Request, SplitJson.Options)!;
            return BringIn(job, request, folder, pulse);
        });
        if (request is not null)
        {
            store.Discard(request.Staging);
        }
    }

    /// <summary>The armed tracks that listen to a row of inputs, with the channels of a recording of that row.</summary>
    public static IReadOnlyList<(Track Track, CutLine Line)> Lines(Split split, string bankId, Func<Track, string> pathOf) =>
    [
        .. from track in split.Tracks
           where track.Armed && track.Input?.BankId == bankId
           let first = track.Input!.Channel
           select (track, new CutLine(track.Title, [.. Enumerable.Range(first, (int)track.Width)], pathOf(track))),
    ];

    private async Task<NewTake> BringIn(Job job, BringInRequest request, string folder, JobPulse pulse)
    {
        var state = await Resilient.Run(() => sessions.Load(job.SessionId), log) ?? throw new JobRefused("The session is gone.");
        var session = OpenSession.Of(state);
        var opened = WaveReader.Open(Path.Combine(store.Staging(request.Staging), BringInRequest.RecordingName));
        if (!opened.Ok)
        {
            throw new JobRefused($"{request.FileName}: {opened.Trouble}");
        }

        using var recording = opened.Value;
        var lines = Lines(state.Split, request.BankId, t => Path.Combine(folder, $"{t.Id}.wav"));
        if (lines.Count == 0)
        {
            throw new JobRefused($"No armed track listens to {state.Split.Bank(request.BankId)?.Label ?? "these inputs"}, so nothing was cut.");
        }

        var info = new Func<CutLine, BroadcastInfo?>(line => new BroadcastInfo($"{line.Track}, cut from {request.FileName}", DateTime.Now));
        var trouble = ChannelCutter.Cut(
            recording, [.. lines.Select(l => l.Line)], info, Environment.ProcessorCount, new Part(pulse, 0, CutShare), pulse.Stop);
        if (trouble is not null)
        {
            throw new JobRefused($"{request.FileName} does not fit this split: {trouble}");
        }

        var cut = new PrintedTrack[lines.Count];
        var done = 0;
        await Parallel.ForAsync(0, lines.Count, pulse.Stop, async (i, cancel) =>
        {
            await Task.Yield();
            var (track, line) = lines[i];
            using var file = WaveReader.Open(line.Path).Value!;
            cut[i] = new PrintedTrack(track, line.Path, FileMeasure.Of(file, null, cancel) with { Remarks = recording.Remarks });
            pulse.Report(CutShare + MeasureShare * Interlocked.Increment(ref done) / lines.Count);
        });
        var adopted = await parts.Adopt(
            session.Lines, cut, new Part(pulse, CutShare + MeasureShare, 1 - CutShare - MeasureShare), pulse.Stop);
        var note = recording.Remarks.IsEmpty ? request.FileName : $"{request.FileName}. {string.Join(" ", recording.Remarks)}";
        return new NewTake(job.SessionId, TakeKind.BringIn, state.Revision, note, [.. adopted.Select((t, i) => t with { Position = state.Split.Tracks.IndexOf(lines[i].Track) + 1 })]);
    }
}

using System.Text.Json;
using GateSplit.Core;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Cuts recordings made elsewhere into one file a track, bit-exactly.</summary>
internal sealed class BringInJob(SessionStore sessions, TakeParts parts, IAudioStore store, ILogger<BringInJob> log) : IJob
{
    private const double CutShare = 0.4;
    private const double MeasureShare = 0.4;

    /// <inheritdoc/>
    public string Kind => TakeKind.BringIn;

    /// <inheritdoc/>
    public void Clear(Job job) => store.Discard(Request(job).Staging);

    /// <inheritdoc/>
    public async Task<NewTake?> Make(Job job, string folder, JobPulse pulse)
    {
        var request = Request(job);
        var state = await Resilient.Run(() => request.Revision is { } shown ? sessions.Load(job.SessionId, shown) : sessions.Load(job.SessionId), log) ?? throw new JobRefused("The session is gone.");
        var session = OpenSession.Of(state);
        var brought = BroughtFolder.Find(store, request.Staging) ?? throw new JobRefused("The files are gone. Bring them in once more.");
        var files = brought.Files();
        var lines = request.Lines.Where(l => BringInPlan.Fits(state.Split, files, l)).ToList();
        if (lines.Count == 0)
        {
            throw new JobRefused("None of the tracks that were to get something is there any more, so nothing was cut.");
        }

        if (Refusal(brought, files, lines, state.Split, request) is { } refusal)
        {
            throw new JobRefused(refusal);
        }

        var remarks = new List<string>();
        var from = 0;
        foreach (var group in lines.GroupBy(l => l.File))
        {
            if (brought.MakeWave(group.Key, pulse.Stop) is { } unreadable)
            {
                throw new JobRefused($"{files[group.Key].Name}: {unreadable}");
            }

            using var recording = WaveReader.Open(brought.WavePath(group.Key)).Value!;
            var cuts = group.Select(l => new CutLine(
                state.Split.Track(l.TrackId)!.Title,
                [.. Enumerable.Range(l.Channel, (int)state.Split.Track(l.TrackId)!.Width)],
                Path.Combine(folder, $"{l.TrackId}.wav"))).ToList();
            var info = new Func<CutLine, FileLabel?>(line => new FileLabel(new BroadcastInfo($"{line.Track}, cut from {files[group.Key].Name}", DateTime.Now)));
            var share = new Part(pulse, CutShare * from / lines.Count, CutShare * cuts.Count / lines.Count);
            if (ChannelCutter.Cut(recording, cuts, info, Environment.ProcessorCount, share, pulse.Stop) is { } trouble)
            {
                throw new JobRefused($"{files[group.Key].Name} does not fit this split: {trouble}");
            }

            remarks.AddRange(Damage(brought, group.Key, recording).Select(d => $"{files[group.Key].Name}: {d}"));
            if (IsConverted(request, recording, state.Split))
            {
                remarks.Add($"{files[group.Key].Name} was converted from {recording.Format.SampleRate.Hz} to {state.Split.Pass.SampleRate}.");
            }

            from += cuts.Count;
        }

        var measured = new PrintedTrack[lines.Count];
        var done = 0;
        await Parallel.ForAsync(0, lines.Count, pulse.Stop, async (i, cancel) =>
        {
            await Task.Yield();
            using var source = WaveReader.Open(brought.WavePath(lines[i].File)).Value!;
            var path = Path.Combine(folder, $"{lines[i].TrackId}.wav");
            if (IsConverted(request, source, state.Split))
            {
                Convert(path, state.Split.Pass.SampleRate, new FileLabel(new BroadcastInfo($"{state.Split.Track(lines[i].TrackId)!.Title}, cut from {files[lines[i].File].Name} and converted from {source.Format.SampleRate}", DateTime.Now)), cancel);
            }

            using var file = WaveReader.Open(path).Value!;
            var measure = FileMeasure.Of(file, null, cancel);
            measured[i] = new PrintedTrack(state.Split.Track(lines[i].TrackId)!, path, measure with { Remarks = [.. Damage(brought, lines[i].File, source), .. measure.Remarks] });
            pulse.Report(CutShare + MeasureShare * Interlocked.Increment(ref done) / lines.Count);
        });
        var adopted = await parts.Adopt(
            job, session.Lines, measured, new Part(pulse, CutShare + MeasureShare, 1 - CutShare - MeasureShare), pulse.Stop);
        var note = string.Join(" ", remarks.Distinct().Prepend(Words.List([.. files.Select(f => f.Name)], most: 3) + (remarks.Count > 0 ? "." : "")));
        return new NewTake(
            job.SessionId,
            TakeKind.BringIn,
            state.Revision,
            note,
            [.. adopted.Select((t, i) => t with { Position = state.Split.Tracks.IndexOf(measured[i].Track) + 1 })]);
    }

    private static IEnumerable<string> Damage(BroughtFolder brought, int file, WaveReader recording) => recording.Remarks.Concat(brought.Remarks(file)).Distinct();

    /// <summary>Why there is no room for the cut; null if there is: packed files are unpacked first, and what is cut, or converted, lies beside that.</summary>
    private string? Refusal(BroughtFolder brought, IReadOnlyList<BroughtFile> files, List<BroughtLine> lines, Split split, BringInRequest request)
    {
        var cut = new Bytes(lines.Sum(l =>
        {
            var (file, format) = (files[l.File], files[l.File].Format);
            var bytes = format.Bytes(file.Frames).Count / format.Channels * (int)split.Track(l.TrackId)!.Width;
            return request.Convert && format.SampleRate != split.Pass.SampleRate
                ? bytes + (long)(bytes * ((double)split.Pass.SampleRate.Hz / format.SampleRate.Hz))
                : bytes;
        }));
        var needed = brought.RoomToUnpack(lines.Select(l => l.File).Distinct()) + cut;
        return needed > store.FreeBytes ? $"The disk is too full: unpacking and cutting these files takes {needed}, and {store.FreeBytes} are free. Nothing was cut." : null;
    }

    private static BringInRequest Request(Job job) => JsonSerializer.Deserialize<BringInRequest>(job.Request, SplitJson.Options)!;

    private static bool IsConverted(BringInRequest request, WaveReader recording, Split split) =>
        request.Convert && recording.Format.SampleRate != split.Pass.SampleRate;

    private static void Convert(string path, SampleRate sampleRate, FileLabel info, CancellationToken cancel)
    {
        var converted = path + ".converted";
        using (var file = WaveReader.Open(path).Value!)
        {
            RateConverter.Convert(file, converted, sampleRate, info, cancel);
        }

        File.Move(converted, path, overwrite: true);
    }
}

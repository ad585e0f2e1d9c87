using System.Collections.Immutable;
using System.Text.Json;
using GateSplit.Core.Handoff;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Brings a whole session in: everything in it is looked at, its recordings are measured anew, and it is there whole or not at all.</summary>
internal sealed class SessionInJob(BundleStore bundles, TakeParts parts, JobStore jobs, ProofPolicy proofs, IAudioStore store, ILogger<SessionInJob> log) : IJob
{
    private const double OutShare = 0.5;
    private const double MeasureShare = 0.3;
    private const int MostFileBytes = 64 << 20;

    /// <inheritdoc/>
    public string Kind => JobKind.SessionIn;

    /// <inheritdoc/>
    public void Clear(Job job) => store.Discard(Request(job).Staging);

    /// <inheritdoc/>
    public async Task<NewTake?> Make(Job job, string folder, JobPulse pulse)
    {
        var upload = ResumableUpload.Named(store, Request(job).Staging) ?? throw new JobRefused("The file is gone. Bring it in once more.");
        ArrivingSession arriving;
        if (BundleReader.IsZip(upload.DataPath))
        {
            var opened = BundleReader.Open(upload.DataPath);
            using var bundle = opened.Ok ? opened.Value : throw new JobRefused(Sentence(upload, opened.Trouble));
            arriving = await TakeIn(job, bundle, upload, folder, pulse);
        }
        else
        {
            arriving = await WithoutTakes(upload, pulse.Stop);
        }

        var (session, takes) = await Resilient.Run(() => bundles.Keep(arriving, job.Id), log);
        if (proofs.ByItself)
        {
            foreach (var take in takes)
            {
                await Resilient.Run(() => jobs.AskProof(session, take), log);
            }
        }

        return null;
    }

    private async Task<ArrivingSession> TakeIn(Job job, BundleReader bundle, ResumableUpload upload, string folder, JobPulse pulse)
    {
        if (bundle.AudioBytes > store.FreeBytes)
        {
            throw new JobRefused($"The disk is too full: the recordings of this session need {bundle.AudioBytes}, and {store.FreeBytes} are free.");
        }

        var tracks = bundle.Tracks;
        string PathOf(int track) => Path.Combine(folder, $"{track}.wav");
        for (var i = 0; i < tracks.Length; i++)
        {
            if (bundle.TakeOut(tracks[i].Track, PathOf(i), pulse.Stop) is { } trouble)
            {
                throw new JobRefused(Sentence(upload, trouble));
            }

            pulse.Report(OutShare * (i + 1) / tracks.Length);
        }

        var measures = new FileMeasure[tracks.Length];
        var done = 0;
        Parallel.For(0, tracks.Length, new ParallelOptions { CancellationToken = pulse.Stop, MaxDegreeOfParallelism = Environment.ProcessorCount }, i =>
        {
            using var wave = WaveReader.Open(PathOf(i)).Value!;
            measures[i] = FileMeasure.Of(wave, null, pulse.Stop);
            pulse.Report(OutShare + MeasureShare * Interlocked.Increment(ref done) / tracks.Length);
        });
        foreach (var take in bundle.Session.Takes)
        {
            var of = measures.Where((_, i) => tracks[i].Take == take).Select(m => (m.Format, m.Frames)).ToList();
            if (take.Unmended(of).With(take.Mends) is { Ok: false } refused)
            {
                throw new JobRefused(Sentence(upload, $"the mends of take {take.Number} do not fit it: {refused.Trouble}"));
            }
        }

        var adopted = await parts.Adopt(job, [.. measures.Select((m, i) => (PathOf(i), m))], new Part(pulse, OutShare + MeasureShare, 1 - OutShare - MeasureShare), pulse.Stop);
        var kept = tracks.Select((t, i) => (t.Take.Number, Track: Kept(t.Track, adopted[i], measures[i]))).ToLookup(t => t.Number, t => t.Track);
        return new ArrivingSession(bundle.Session, bundle.Revisions, bundle.Notes, bundle.Charts, kept.ToDictionary(t => t.Key, t => (IReadOnlyList<NewTake.Track>)[.. t]));
    }

    private static NewTake.Track Kept(BundledTrack track, TakeParts.Adopted file, FileMeasure measure) =>
        new(track.TrackId, track.Name, track.Family?.ToString(), track.Elements, track.Source, file.Hash, file.Bytes, file.OverviewHash, measure)
        {
            Position = track.Position,
            Pass = track.Pass,
            Remark = track.Remark,
        };

    /// <summary>A session that was exported without its takes.</summary>
    private static async Task<ArrivingSession> WithoutTakes(ResumableUpload upload, CancellationToken cancel)
    {
        if (upload.Length > MostFileBytes)
        {
            throw new JobRefused(Sentence(upload, "this is neither a session with its takes nor one without."));
        }

        var opened = SessionFile.Read(await File.ReadAllBytesAsync(upload.DataPath, cancel));
        if (!opened.Ok)
        {
            throw new JobRefused(Sentence(upload, opened.Trouble));
        }

        var first = new BundledRevision(1, null, 1, "New session", "", DateTime.UtcNow, upload.FileName);
        return new ArrivingSession(
            new SessionBundle(opened.Value.File.Name, first.Number, [first], [], [], [], []),
            ImmutableDictionary<int, SessionFile.Opened>.Empty.Add(first.Number, opened.Value),
            ImmutableDictionary<int, byte[]>.Empty,
            [],
            ImmutableDictionary<int, IReadOnlyList<NewTake.Track>>.Empty);
    }

    private static string Sentence(ResumableUpload upload, string trouble) => $"{upload.FileName} was not brought in. {trouble}";

    private static SessionInRequest Request(Job job) => JsonSerializer.Deserialize<SessionInRequest>(job.Request, SplitJson.Options)!;
}

using System.Text.Json;
using GateSplit.Core.Charts;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Says what a take really holds, with its mends made.</summary>
internal sealed class ProofJob(SessionStore sessions, TakeStore takes, ReadingStore readings, ProofStore proofs, RollCallStore calls, IAudioStore store, ILogger<ProofJob> log) : IJob
{
    /// <summary>Share of the progress that is the making of mended files.</summary>
    private const double MendShare = 0.2;

    /// <inheritdoc/>
    public string Kind => JobKind.Proof;

    /// <inheritdoc/>
    public void Clear(Job job)
    {
        // Mended files lie in its staging folder.
    }

    /// <inheritdoc/>
    public async Task<NewTake?> Make(Job job, string folder, JobPulse pulse)
    {
        var request = JsonSerializer.Deserialize<ProofRequest>(job.Request, SplitJson.Options)!;
        await using var reading = await Resilient.Run(() => readings.Begin(job.SessionId, request.TakeId), log) ?? throw new JobRefused("The take is gone.");
        var take = await Resilient.Run(() => takes.Find(request.TakeId), log) ?? throw new JobRefused("The take is gone.");
        var state = await Resilient.Run(() => sessions.Load(job.SessionId, take.Revision), log) ?? throw new JobRefused("The session is gone.");
        var mends = await Resilient.Run(() => proofs.Mends(take.Id), log);
        var session = OpenSession.Of(state);
        var mended = TakeMends.Of(take).With(mends.Mends);
        if (!mended.Ok)
        {
            throw new JobRefused($"The mends of this take do not fit it any more: {mended.Trouble}");
        }

        var opened = new List<WaveReader>();
        try
        {
            foreach (var track in mended.Value.Tracks)
            {
                opened.Add(Open(take.Tracks[track.File], track, folder, new Part(pulse, MendShare * opened.Count / take.Tracks.Count, MendShare / take.Tracks.Count), pulse.Stop));
            }

            var lines = session.Lines;
            var tracks = take.Tracks.Select(t => lines.Split.Track(t.TrackId)).ToList();
            var reference = tracks.FindIndex(t => t is not null && lines.RecordsMix(t));
            reference = take.Tracks.Count > 1 ? reference : -1; // a mix by itself is what it is
            var files = Enumerable.Range(0, opened.Count).Where(i => i != reference).ToList();
            var called = await Resilient.Run(() => calls.Of(job.SessionId), log);
            var parts = Parts.Of(lines, [.. files.Select(i => tracks[i] ?? new Track(take.Tracks[i].TrackId, take.Tracks[i].Name, Width.Mono))], called.Select(c => c.Reading));
            var proof = TakeProof.Of(
                [.. files.Select((f, i) => new ProofFile(take.Tracks[f].Name, opened[f], i) { Id = take.Tracks[f].TrackId.Value, Recorded = take.Tracks[mended.Value.Tracks[f].File].Frames })],
                parts,
                reference < 0 ? null : opened[reference],
                new Part(pulse, MendShare, 1 - MendShare),
                pulse.Stop);
            await Resilient.Run(() => proofs.Keep(take.Id, proof, mends.Json), log);
            return null;
        }
        finally
        {
            opened.ForEach(o => o.Dispose());
        }
    }

    /// <summary>The file of a track: the printed one, or a mended one made beside the others.</summary>
    private WaveReader Open(TakeTrack printed, MendedTrack track, string folder, Part progress, CancellationToken stop)
    {
        var path = store.Find(printed.Hash) ?? throw new JobRefused($"The file of {printed.Name} is not in the audio store any more.");
        var reader = WaveReader.Open(path);
        if (!reader.Ok)
        {
            throw new JobRefused($"{printed.Name}: {reader.Trouble}");
        }

        if (track.Plan.IsAsItIs(reader.Value.Frames))
        {
            return reader.Value;
        }

        using var from = reader.Value;
        var needed = (from.Format with { Channels = track.Plan.Gains.Length }).Bytes(track.Plan.Frames);
        if (needed > store.FreeBytes)
        {
            throw new JobRefused($"The disk is too full: the mended file of {printed.Name} takes {needed}, and {store.FreeBytes} are free.");
        }

        var made = Path.Combine(folder, $"{track.File}.wav");
        TakeRenderer.Render(from, track.Plan, made, null, progress, stop);
        return WaveReader.Open(made).Value ?? throw new IOException($"The mended file of {printed.Name} cannot be read.");
    }
}

using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Handoff;
using GateSplit.Core.Proofing;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>Gathers what a handoff can be made of.</summary>
public sealed class HandoffMaterials(SessionStore sessions, TakeStore takes, MendedTakes mended, ProofStore proofs, IAudioStore store)
{
    /// <summary>What the names of staging folders of downloads begin with.</summary>
    public const string StagingPrefix = "handoff-";

    /// <summary>Gathers it: each line with what belonged to its take when that was recorded.</summary>
    /// <param name="now">The session as it is now.</param>
    /// <param name="takeId">The take; 0 for what counts of each line.</param>
    /// <param name="others">Lines that are of another take: their tracks with the numbers of those takes.</param>
    /// <returns>Or why nothing can be handed off.</returns>
    public async Task<Result<HandoffMaterial>> Of(SessionState now, long takeId, IReadOnlyDictionary<string, int> others)
    {
        if (await (takeId == 0 ? takes.Chosen(now.Id) : takes.Find(takeId)) is not { } take || take.SessionId != now.Id)
        {
            return new Refusal("There is no such take any more.");
        }

        if (others.Count > 0)
        {
            var all = await takes.Of(now.Id);
            take = take with { Tracks = [.. take.Tracks.Select(t => others.TryGetValue(t.TrackId.Value, out var number) ? all.FirstOrDefault(a => a.Number == number)?.Tracks.FirstOrDefault(o => o.TrackId == t.TrackId) ?? t : t)] };
        }

        var made = await mended.Of(take);
        if (!made.Ok)
        {
            return new Refusal(made.Trouble);
        }

        if (made.Value.Lines.FirstOrDefault(l => store.Find(l.Printed.Hash) is null) is { } missing)
        {
            return new Refusal($"The file of {missing.Track.Name} is not in the audio store any more.");
        }

        var lines = ImmutableArray.CreateBuilder<HandoffLine>();
        var then = new Dictionary<long, (HandoffTake Take, TakeProof? Proof)>();
        foreach (var line in made.Value.Lines)
        {
            if (!then.TryGetValue(line.Track.TakeId, out var of))
            {
                if (await Then(now, line.Track.TakeId) is not { } found)
                {
                    return new Refusal($"Take {line.Track.TakeNumber} is gone.");
                }

                then[line.Track.TakeId] = of = found;
            }

            lines.Add(Line(line, of.Take, of.Proof));
        }

        return new HandoffMaterial(now.Name, now.Split, lines.ToImmutable(), [.. made.Value.Mends]) { OnTrial = [.. made.Value.OnTrial] };
    }

    /// <summary>A take with the split and the song that it was recorded with, and what proof says of it with the mends that are made.</summary>
    private async Task<(HandoffTake Take, TakeProof? Proof)?> Then(SessionState now, long takeId)
    {
        if (await takes.Find(takeId) is not { } take)
        {
            return null;
        }

        // The split of a take that is as old as the history goes is that which there is.
        var open = OpenSession.Of(await sessions.Load(now.Id, take.Revision) ?? now);
        var (kept, mends) = (await proofs.Find(takeId), await proofs.Mends(takeId));
        var proof = kept is null ? null
            : mends.Trial == 0 ? (kept.Mends == mends.Json ? kept.Proof : null)
            : kept.Mends == mends.Json ? kept.Untried : null;
        return (new HandoffTake(take.Number, take.Kind == TakeKind.Print, take.CreatedAt.ToLocalTime(), take.Note, open.Lines, open.Song, open.State.Song), proof);
    }

    private static HandoffLine Line(MendedLine line, HandoffTake take, TakeProof? proof)
    {
        var file = proof?.Tracks.ToList().FindIndex(t => t.Id == line.Track.TrackId.Value) ?? -1;
        return new HandoffLine(
            line.Track.TrackId,
            line.Track.Name,
            take,
            line.Printed.Source,
            line.Printed.Hash,
            line.Printed.Format,
            line.Printed.Frames,
            line.Plan,
            !line.IsAsPrinted || line.Printed.TrackId != line.Track.TrackId)
        {
            Pass = line.Printed.Pass,
            Remark = string.Join(" ", line.Printed.Remarks.Prepend(line.Printed.Remark).Where(r => r.Length > 0)),
            Verdict = file < 0 ? "" : ProofWords.Sentence(proof!, file),
            Levels = file < 0 ? null : HandoffLevels.Of(proof!.Tracks[file].Scan.Levels),
        };
    }
}

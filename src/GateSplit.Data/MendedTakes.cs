using GateSplit.Core;

namespace GateSplit.Data;

/// <summary>Takes as their mends make them.</summary>
/// <param name="takes">The takes.</param>
/// <param name="proofs">Their mends.</param>
public sealed class MendedTakes(TakeStore takes, ProofStore proofs)
{
    /// <summary>The tracks of a take, or of what stands for one, each as the mends of the take it was recorded in make it; those on trial are not made.</summary>
    /// <param name="take">The take; its tracks may be of several.</param>
    /// <returns>Or a sentence where mends do not fit their take.</returns>
    public async Task<Result<MendedAudio>> Of(Take take)
    {
        var mended = new Dictionary<long, IReadOnlyList<MendedLine>>();
        var names = new List<string>();
        var onTrial = new List<string>();
        foreach (var id in take.Tracks.Select(t => t.TakeId).Distinct())
        {
            if (await proofs.Mends(id) is not { Mends.Count: > 0 } mends || (take.Id == id ? take : await takes.Find(id)) is not { } whole)
            {
                continue;
            }

            var settled = mends.Settled;
            var made = TakeMends.Lines(whole, settled);
            if (!made.Ok)
            {
                return new Refusal($"The mends of take {whole.Number} do not fit it any more: {made.Trouble} Take them back at Proof.");
            }

            mended[id] = made.Value;
            var all = TakeMends.Names(whole, mends).Select(name => take.Id == id ? name : $"Take {whole.Number}: {name}").ToList();
            names.AddRange(all.Take(settled.Mends.Count));
            onTrial.AddRange(all.Skip(settled.Mends.Count));
        }

        return new MendedAudio(
            [.. take.Tracks.Select(t => mended.GetValueOrDefault(t.TakeId)?.FirstOrDefault(m => m.Track.TrackId == t.TrackId) is { } line ? line with { Track = t } : MendedLine.AsPrinted(t))],
            names,
            onTrial);
    }
}

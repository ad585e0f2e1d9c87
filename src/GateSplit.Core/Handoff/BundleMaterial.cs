using System.Collections.Immutable;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Views;

namespace GateSplit.Core.Handoff;

/// <summary>What a handoff of a bundled session can be made of: of each line the take that counts, as its mends make it.</summary>
public static class BundleMaterial
{
    /// <summary>Gathers it.</summary>
    /// <param name="bundle">The session.</param>
    /// <param name="stored">The recordings of its tracks, by reference: two takes may have tracks that are alike.</param>
    /// <returns>Or why nothing can be handed off.</returns>
    public static Result<HandoffMaterial> Of(BundleReader bundle, IReadOnlyDictionary<BundledTrack, Stored> stored)
    {
        var chosen = bundle.Session.Choices.ToDictionary(c => c.TrackId, c => c.Take);
        var counting = bundle.Tracks.GroupBy(t => t.Track.TrackId)
            .Select(of => of.FirstOrDefault(t => chosen.TryGetValue(of.Key, out var number) && t.Take.Number == number) is { Take: not null } choice ? choice : of.MaxBy(t => t.Take.Number))
            .OrderBy(t => t.Track.Position).ThenBy(t => t.Track.TrackId.Value, StringComparer.Ordinal)
            .ToList();
        var takes = new Dictionary<int, (HandoffTake Take, MendedTake Mended)>();
        var (mends, onTrial) = (new List<string>(), new List<string>());
        foreach (var take in counting.Select(t => t.Take).Distinct())
        {
            var unmended = take.Unmended([.. take.Tracks.Select(t => (stored[t].Format, stored[t].Frames))]);
            var mended = unmended.With(take.Settled);
            if (!mended.Ok)
            {
                return new Refusal($"The mends of take {take.Number} do not fit it: {mended.Trouble}");
            }

            var names = MendNames.Of(unmended, take.Mends).ToList();
            mends.AddRange(names.Take(take.Mends.Length - take.OnTrial));
            onTrial.AddRange(names.Skip(take.Mends.Length - take.OnTrial));
            var then = bundle.Revisions[take.Revision];
            takes[take.Number] = (new HandoffTake(take.Number, take.Printed, take.Made.ToLocalTime(), take.Note, SplitView.Of(then.File.Split, then.Song), then.Song, then.File.Song), mended.Value);
        }

        return new HandoffMaterial(bundle.Session.Name, bundle.Now.File.Split, [.. counting.Select(t => Line(t.Take, t.Track, takes[t.Take.Number], stored))], [.. mends]) { OnTrial = [.. onTrial] };
    }

    private static HandoffLine Line(
        BundledTake take, BundledTrack track, (HandoffTake Take, MendedTake Mended) of, IReadOnlyDictionary<BundledTrack, Stored> stored)
    {
        // Names may have been exchanged: the line is made from the file of another one then.
        var mended = of.Mended.Tracks.First(m => m.Id == track.TrackId);
        var printed = take.Tracks[mended.File];
        var (audio, format, frames, remarks) = stored[printed];
        return new HandoffLine(track.TrackId, track.Name, of.Take, printed.Source, audio, format, frames, mended.Plan, !mended.Plan.IsAsItIs(frames) || printed.TrackId != track.TrackId)
        {
            Pass = printed.Pass,
            Remark = string.Join(" ", remarks.Prepend(printed.Remark).Where(r => r.Length > 0)),
        };
    }

    /// <summary>A recording as a stored file.</summary>
    /// <param name="Audio">Its name.</param>
    /// <param name="Format">The shape of its samples.</param>
    /// <param name="Frames">Its length.</param>
    /// <param name="Remarks">Damage that was read around.</param>
    public sealed record Stored(string Audio, AudioFormat Format, Frames Frames, ImmutableArray<string> Remarks);
}

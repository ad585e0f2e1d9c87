using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>
/// An element that two tracks carry by direct paths, both recorded or heard, is there twice: louder, and hollow where
/// the two are not in step. Mostly it is the main mix that doubles the single lines.
/// </summary>
public sealed class DoubledCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        // A track that is not recorded and goes to a bus or a looped-back pair is only a part of the way there.
        var carried = view.Split.Tracks
            .Where(t => t.Armed || (t.Heard && t.Bus is null && view.Split.TrackGroup(t.GroupId) is not { Sums: true, Bus: not null }))
            .ToDictionary(t => t, view.SoundingIn);
        var doubled = carried
            .SelectMany(p => p.Value.Select(e => (Element: e, Track: p.Key)))
            .GroupBy(p => p.Element, p => p.Track)
            .Where(g => g.Count() > 1);

        // The track that carries the most is the one that doubles the others.
        var culprits = doubled
            .GroupBy(g => g.OrderByDescending(t => carried[t].Length).ThenByDescending(t => t.Id.Number).First(), g => g.Key);
        foreach (var group in culprits)
        {
            var track = group.Key;
            var names = Words.List([.. group.Select(view.Split.NameOf)], most: 3);
            yield return Finding.Warning(
                    Place.Of(track),
                    $"{names} {(group.Count() == 1 ? "is" : "are")} there twice: on {(group.Count() == 1 ? "a track" : "tracks")} of their own and in {track.Title}. Silence {track.Title}, or the sum is louder than the music.")
                .WithFix($"Silence {track.Title}", new Several(
                    $"Silence {track.Title}",
                    [new SetArmed(track.Id, false), new SetMonitor(track.Id, MonitorMode.Never)]));
        }
    }
}

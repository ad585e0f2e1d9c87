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
    /// <summary>Two tracks that take the two sides of one pair hold it once, between them.</summary>
    private static bool Overlap(SplitView view, ElementRef element, Track one, Track other) => view.Signal.PortsOf(element)
        .Select(f => (One: view.SidesTaken(one.Id, f.UnitId, f.Port), Other: view.SidesTaken(other.Id, f.UnitId, f.Port)))
        .ToList() is var taken
        && (taken.TrueForAll(t => t.One == PortSides.None || t.Other == PortSides.None) || taken.Exists(t => (t.One & t.Other) != PortSides.None));

    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        // A track that is not recorded and goes to a bus or a looped-back pair is only a part of the way there.
        var carried = view.Split.Tracks
            .Where(t => !view.IsReference(t) && (t.Armed || (t.Heard && view.Split.OutputOf(t) is null)))
            .ToDictionary(t => t, t => view.SoundingIn(t).RemoveAll(e => view.Signal.IsStraight(e, t.Id))); // what is fed there beside its usual way is meant to be there twice
        var doubled = carried
            .SelectMany(p => p.Value.Select(e => (Element: e, Track: p.Key)))
            .GroupBy(p => p.Element, p => p.Track)
            .Where(g => g.Any(t => g.Any(o => o != t && Overlap(view, g.Key, t, o))));

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
                .Naming(group.Select(view.Split.NameOf))
                .WithFix($"Silence {track.Title}", new Several(
                    $"Silence {track.Title}",
                    [new SetArmed(track.Id, false), new SetMonitor(track.Id, MonitorMode.Never)]));
        }
    }
}

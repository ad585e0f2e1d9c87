using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Tracks that were made for a source that was removed: nothing will ever arrive on them.</summary>
public sealed class GoneSourceCheck : ICheck, IOfTheWholeSplit
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from track in view.Split.Tracks
        where !track.MeantFor.IsEmpty && track.MeantFor.All(m => view.Split.Unit(m.UnitId) is null) && view.IsSilent(track)
        group track by track.MeantFor[0].UnitId into left
        let tracks = left.ToList()
        select Finding.Warning(
                Place.Of(tracks[0]),
                $"{Words.List([.. tracks.Select(t => t.Title)], most: 3)} {(tracks.Count == 1 ? "was" : "were")} made for a source that is not there any more: nothing arrives on {(tracks.Count == 1 ? "it" : "them")}.")
            .Naming(tracks.Select(t => t.Title))
            .WithFix(
                $"Remove {(tracks.Count == 1 ? tracks[0].Title : Words.Count(tracks.Count, "track"))}",
                new Several($"Remove {Words.Count(tracks.Count, "track")} of a source that is gone", [.. tracks.Select(t => (Edit)new RemoveTrack(t.Id))]))
            .AndAbout(tracks.Skip(1).Select(t => Place.Of(t)));
}

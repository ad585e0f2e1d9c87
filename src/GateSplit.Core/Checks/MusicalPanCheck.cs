using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>An element that is panned hard only to share a pair has its place in the music on its track, or it is lost.</summary>
public sealed class MusicalPanCheck : ICheck
{
    private const double Near = 0.01;

    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from track in view.ArmedTracks
        where track.Width == Width.Mono
        let carried = view.SoundingIn(track)
        where carried.Length == 1
        let pan = view.SettingsOf(carried[0]).MusicalPan
        where pan is not null && Math.Abs(pan.Value - track.Pan) > Near
        let name = view.Split.NameOf(carried[0])
        select Finding.Note(
                Place.Of(track),
                $"{name} is panned hard only to share a port; in the music it stands {Words.Pan(pan.Value)}, but its track stands {Words.Pan(track.Pan)}.")
            .WithFix($"Pan the track {Words.Pan(pan.Value)}", new SetTrackPan(track.Id, pan.Value));
}

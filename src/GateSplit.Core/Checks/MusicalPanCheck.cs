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
        where view.SettingsOf(carried[0]).MusicalPan is not null
        let pan = view.SettingsOf(carried[0]).MusicalPan!.Value
        where Math.Abs(pan.Value - track.Pan.Value) > Near
        let name = view.Split.NameOf(carried[0])
        select Finding.Note(
                Place.Of(track),
                $"{name} is panned hard only to share a port; in the music it stands {pan}, but its track stands {track.Pan}.")
            .WithFix($"Pan the track {pan}", new SetTrackPan(track.Id, pan));
}

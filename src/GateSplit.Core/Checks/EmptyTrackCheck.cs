using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>An armed track whose input carries nothing prints an empty file.</summary>
public sealed class EmptyTrackCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from track in view.ArmedTracks
        where !view.Split.IsOff(track) && view.IsSilent(track)
        select Finding.Warning(Place.Of(track), track.Input is null
                ? $"{track.Title} is armed but has no input: its file would be empty."
                : $"{track.Title} is armed, but nothing that plays in this song arrives on {view.Split.InputName(track)}: its file would be empty.")
            .WithFix($"Disarm {track.Title}", new SetArmed(track.Id, false));
}

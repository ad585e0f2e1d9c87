using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A track that is recorded but not heard: a mistake in it is noticed only afterwards.</summary>
public sealed class NotMonitoredCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from track in view.ArmedTracks
        where !track.Heard && !view.IsReference(track) && !view.SoundingIn(track).IsEmpty
        select Finding.Warning(
                Place.Of(track),
                $"{track.Title} is armed but never monitored: you will not hear it while it is recorded.")
            .WithFix($"Monitor {track.Title} while armed", new SetMonitor(track.Id, MonitorMode.WhileArmed));
}

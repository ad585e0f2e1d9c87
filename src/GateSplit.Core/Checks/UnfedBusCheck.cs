using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A track that listens to a bus hears only tracks that are themselves heard: recorded or monitored.</summary>
public sealed class UnfedBusCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var feeding = view.Split.Tracks.Select(t => (Track: t, Bus: view.Split.OutputOf(t))).Where(f => f.Bus is not null && !view.SoundingIn(f.Track).IsEmpty).ToList();
        foreach (var track in view.ArmedTracks.Where(t => t.Input is not null && view.IsSilent(t)))
        {
            var input = track.Input!;
            var feeders = feeding.Where(f => f.Bus!.BankId == input.BankId && f.Bus.Channel + 1 >= input.Channel && input.Channel + (int)track.Width > f.Bus.Channel).Select(f => f.Track).ToList();
            if (feeders.Count > 0 && feeders.TrueForAll(f => !f.Heard))
            {
                yield return Finding.Warning(
                        Place.Of(track),
                        $"Nothing arrives on {view.Split.InputName(track)}: {Words.List([.. feeders.Select(f => f.Title)], most: 3)} {(feeders.Count == 1 ? "feeds" : "feed")} it, but {(feeders.Count == 1 ? "is" : "are")} neither armed nor monitored. {track.Title} would be empty.")
                    .Naming(feeders.Select(f => f.Title))
                    .WithFix(
                        $"Monitor {(feeders.Count == 1 ? feeders[0].Title : Words.Count(feeders.Count, "track"))} always",
                        new Several("Monitor what feeds the bus", [.. feeders.Select(f => (Edit)new SetMonitor(f.Id, MonitorMode.Always))]));
            }
        }
    }
}

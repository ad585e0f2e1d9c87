using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A track that listens to a bus must not feed that bus, by whatever way: it would howl.</summary>
public sealed class LoopCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var loop in view.Signal.Loops)
        {
            var tracks = loop.Select(id => view.Split.Track(id)!).ToList();
            yield return Finding.Stop(
                    Place.Of(tracks[0]),
                    view.Circle(loop))
                .WithFix($"Send {tracks[^1].Title} to the main output", new SetTrackBus(tracks[^1].Id, null));
        }
    }
}

using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A tail shorter than the longest decay cuts off what rings.</summary>
public sealed class TailCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        if (view.Split.Pass.TailSeconds is not { } tail)
        {
            yield break;
        }

        var longest = view.SoundingElements
            .Where(e => view.Signal.Reaching(e.Ref).Any(c => view.Split.Track(c.TrackId)!.Armed))
            .Select(e => (e.Ref, e.Chart.Name, Seconds: view.RingSeconds(e.Ref)))
            .OrderByDescending(e => e.Seconds)
            .FirstOrDefault();
        if (longest.Name is not null && longest.Seconds > tail + 0.05)
        {
            yield return Finding.Warning(
                    Place.Of(longest.Ref),
                    $"{longest.Name} rings for {longest.Seconds:0.0} seconds, but the tail is only {tail:0.0}: its end will be cut off.")
                .WithFix("Let the tail last as long as the longest decay", new SetPass(view.Split.Pass with { TailSeconds = null }));
        }
    }
}

using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Gear that follows the recorder needs a count-in to come in on the first beat.</summary>
public sealed class CountInCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var following = view.Split.Units.Where(u => u.Chart.Clock.Follows && u.Clock == ClockMode.Follows && view.SoundingElements.Any(e => e.Unit == u)).ToList();
        if (following.Count > 0 && view.Split.Pass.CountInBars == 0)
        {
            yield return Finding.Warning(
                    Place.Of(following[0]),
                    $"{Words.List([.. following.Select(u => u.Name)])} {(following.Count == 1 ? "follows" : "follow")} the recorder, and there is no count-in: the first beat may be missed. One bar is enough.")
                .WithFix("Count in one bar", new SetPass(view.Split.Pass with { CountInBars = 1 }));
        }
    }
}

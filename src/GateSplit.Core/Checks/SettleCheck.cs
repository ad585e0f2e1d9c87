using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>The first round of a loop is out of step on gear that has to lock to the clock first.</summary>
public sealed class SettleCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var clocked = view.Split.Units.Where(u => u.Chart.Clock.Any && u.Clock != ClockMode.Free && view.SoundingElements.Any(e => e.Unit == u)).ToList();
        if (view.Split.Pass is { Looped: true, SettleLoops: 0 } pass && clocked.Count > 0)
        {
            yield return Finding.Warning(
                    Place.Of(clocked[0]),
                    $"The body is played as a loop, and {Words.List([.. clocked.Select(u => u.Name)])} {(clocked.Count == 1 ? "needs" : "need")} a round to lock to the clock: the first one would be out of step. Let it go round once before recording.")
                .WithFix("Let the loop go round once", new SetPass(pass with { SettleLoops = 1 }));
        }
    }
}

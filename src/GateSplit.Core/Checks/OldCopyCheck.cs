using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A second copy of a source that plays the same notes and that nobody takes is mostly the old one, still loaded.</summary>
public sealed class OldCopyCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from alike in view.Split.Units.Where(u => view.SoundingElements.Any(e => e.Unit == u)).GroupBy(u => u.Chart.Id)
        where alike.Count() > 1 && alike.Any(u => IsTaken(view, u))
        from old in alike.Where(u => !IsTaken(view, u))
        let current = alike.First(u => IsTaken(view, u))
        select Finding.Warning(
                Place.Of(old),
                $"{old.Name} plays the same notes as {current.Name}, and no track takes it: an old copy still sounds along. Remove it.")
            .WithFix($"Remove {old.Name}", new RemoveUnit(old.Id));

    private static bool IsTaken(SplitView view, Unit unit) =>
        view.Signal.TrackFeeds.Any(f => f.UnitId == unit.Id) || view.Split.Tracks.Any(t => t.MeantFor.Any(m => m.UnitId == unit.Id));
}

using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A setting on the real source that nobody has ticked yet: without it the split does not hold.</summary>
public sealed class SettingsCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from unit in view.Split.Units
        let open = unit.Simulated.NotMade.Where(i => i < unit.Chart.Settings.Length).Select(i => unit.Chart.Settings[i]).ToList()
        where open.Count > 0 && view.SoundingElements.Any(e => e.Unit == unit)
        select Finding.Warning(
                Place.Of(unit),
                $"{Words.Count(open.Count, "setting")} of {unit.Name} {(open.Count == 1 ? "is" : "are")} not ticked yet. First: {open[0].What} Otherwise: {open[0].Otherwise}")
            .WithFix(open.Count == 1 ? "It is made: tick it" : "They are made: tick them", new MakeSetting(unit.Id, null, true));
}

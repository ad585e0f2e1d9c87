using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Ticks a setting of a source as made, or takes the tick away.</summary>
/// <param name="UnitId">The source.</param>
/// <param name="Setting">Which of its chart's settings, counted from 0; null for all of them.</param>
/// <param name="Made">True for made.</param>
public sealed record MakeSetting(UnitId UnitId, int? Setting, bool Made) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => Setting is null
        ? Made ? $"Tick all settings of {unit.Name}" : $"Begin the settings of {unit.Name} anew"
        : Made ? $"Tick a setting of {unit.Name}" : $"Take a tick off {unit.Name}";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit)
    {
        var all = Enumerable.Range(0, unit.Chart.Settings.Length);
        var named = Setting is { } one ? [one] : all;
        if (named.Except(all).Any())
        {
            return new Refusal($"{unit.Name} has no such setting any more.");
        }

        var open = Made ? unit.Simulated.NotMade.Except(named) : unit.Simulated.NotMade.Union(named);
        return unit with { Simulated = unit.Simulated with { NotMade = [.. open.Order()] } };
    }
}

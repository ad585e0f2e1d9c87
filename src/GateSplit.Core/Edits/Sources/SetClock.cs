using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Says who keeps time between a source and the recorder.</summary>
/// <param name="UnitId">Which.</param>
/// <param name="Clock">Who.</param>
public sealed record SetClock(UnitId UnitId, ClockMode Clock) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => Clock switch
    {
        ClockMode.Follows => $"{unit.Name} follows the recorder",
        ClockMode.Leads => $"{unit.Name} leads the recorder",
        _ => $"{unit.Name} runs free",
    };

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit) => unit with { Clock = Clock };
}

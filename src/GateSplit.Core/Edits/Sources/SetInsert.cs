using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Switches an element's own effect on or off: what leaves by its port and to the shared effect is with it or without.</summary>
/// <param name="Element">Which.</param>
/// <param name="On">True for with the effect.</param>
public sealed record SetInsert(ElementRef Element, bool On) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => On ? $"Let {element} leave with its own effect" : $"Let {element} leave without its own effect";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) => chart.Insert is null
        ? new Refusal($"{chart.Name} has no effect of its own.")
        : element with { InsertOff = !On };
}

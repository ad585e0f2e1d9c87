using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sets how much of an element goes to the shared effect of its source, and where it stands there.</summary>
/// <param name="Element">Which.</param>
/// <param name="SendDb">-120 to +12 dB; null for the chart's.</param>
/// <param name="SendPan">-1 left to 1 right; null for where the element is panned.</param>
public sealed record SetSend(ElementRef Element, Decibels? SendDb, Pan? SendPan) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => $"Set the send of {element}";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) => unit.Chart.Elements.Any(e => e.Kind == ElementKind.Return)
            ? element with { SendDb = SendDb, SendPan = SendPan }
            : new Refusal($"{unit.Name} has no shared effect to send to.");
}

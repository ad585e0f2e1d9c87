using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sets how much a microphone hears of what it is not meant for.</summary>
/// <param name="Element">Which.</param>
/// <param name="BleedDb">-120 (none) to +12 dB, relative to the chart.</param>
public sealed record SetBleed(ElementRef Element, Decibels BleedDb) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => $"Set the bleed of {element}";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element)
    {
        if (!chart.Hears.Any(h => h.Bleed))
        {
            return new Refusal($"{chart.Name} hears nothing but itself, so it has no bleed.");
        }

        return element with { BleedDb = BleedDb };
    }
}

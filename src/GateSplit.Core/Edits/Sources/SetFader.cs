using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Moves an element's fader on the source.</summary>
/// <param name="Element">Which.</param>
/// <param name="FaderDb">-120 to +12 dB.</param>
public sealed record SetFader(ElementRef Element, Decibels FaderDb) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) =>
        FaderDb == Decibels.Unity ? $"Set {element}'s fader to unity" : $"Set {element}'s fader to {FaderDb}";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) =>
        element with { FaderDb = FaderDb };
}

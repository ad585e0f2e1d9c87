using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Turns an element's polarity, or turns it back.</summary>
/// <param name="Element">Which.</param>
/// <param name="Turned">True for turned.</param>
public sealed record SetPolarity(ElementRef Element, bool Turned) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => Turned ? $"Turn the polarity of {element}" : $"Let {element} leave with its own polarity";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) => element with { PolarityTurned = Turned };
}

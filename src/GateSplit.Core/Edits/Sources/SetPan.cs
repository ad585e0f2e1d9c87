using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Turns an element's pan or balance on the source.</summary>
/// <param name="Element">Which.</param>
/// <param name="Pan">-1 left to 1 right.</param>
public sealed record SetPan(ElementRef Element, Pan Pan) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => Pan == Pan.Centre ? $"Pan {element} to the centre" : $"Pan {element} {Pan}";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) =>
        element with { Pan = Pan, MusicalPan = null };
}

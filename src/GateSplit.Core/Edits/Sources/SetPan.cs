using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Turns an element's pan or balance on the source.</summary>
/// <param name="Element">Which.</param>
/// <param name="Pan">-1 left to 1 right.</param>
public sealed record SetPan(ElementRef Element, double Pan) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => Pan == 0 ? $"Pan {element} to the centre" : $"Pan {element} {Words.Pan(Pan)}";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) =>
        Pan is >= -1 and <= 1 ? element with { Pan = Pan, MusicalPan = null } : new Refusal("Pan goes from -1 (left) to 1 (right).");
}

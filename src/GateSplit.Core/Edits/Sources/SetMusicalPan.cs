using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Says where an element that is panned hard to share a pair stands in the music: its sends go by that, and its track gives it back.</summary>
/// <param name="Element">Which.</param>
/// <param name="Pan">-1 left to 1 right.</param>
public sealed record SetMusicalPan(ElementRef Element, Pan Pan) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => $"Put {element} {Pan} in the music";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) =>
        element.MusicalPan is null ? new Refusal($"{chart.Name} stands in the music where its pan is.") : element with { MusicalPan = Pan };
}

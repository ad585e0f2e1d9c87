using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Pans an element hard to one side of a pair that it shares; the pan it has in the music is remembered.</summary>
/// <param name="Element">Which.</param>
/// <param name="Side">0 left, 1 right.</param>
public sealed record PanApart(ElementRef Element, int Side) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => $"Pan {element} hard {(Side == 0 ? "left" : "right")}";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) => element with
    {
        MusicalPan = element.MusicalPan ?? element.Pan,
        Pan = Side == 0 ? Pan.HardLeft : Pan.HardRight,
    };
}

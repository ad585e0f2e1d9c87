using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Lets an element play in one pass only, or in all.</summary>
/// <param name="Element">Which.</param>
/// <param name="Pass">The pass, from 1; null for all.</param>
public sealed record SetElementPass(ElementRef Element, int? Pass) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => Pass is { } pass ? $"Play {element} in pass {pass}" : $"Play {element} in every pass";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) =>
        element with { Pass = Pass };
}

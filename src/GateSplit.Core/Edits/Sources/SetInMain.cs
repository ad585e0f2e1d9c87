using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Takes an element out of the main mix or puts it back.</summary>
/// <param name="Element">Which.</param>
/// <param name="InMain">True to put it into the mix.</param>
public sealed record SetInMain(ElementRef Element, bool InMain) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => InMain ? $"Put {element} into the main mix" : $"Take {element} out of the main mix";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) =>
        element with { InMain = InMain };
}

using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>A change of the settings of one element.</summary>
/// <param name="Element">Which.</param>
public abstract record ElementEdit(ElementRef Element) : Edit
{
    /// <inheritdoc/>
    public sealed override string Name(Split split) => Name(split.NameOf(Element));

    /// <inheritdoc/>
    protected internal sealed override Result<Split> Change(Split split)
    {
        if (split.Unit(Element.UnitId) is not { } unit || unit.Chart.Element(Element.ElementId) is not { } chart)
        {
            return new Refusal($"There is no element {Element} in this split any more.");
        }

        var changed = Change(unit, chart, unit.Element(Element.ElementId));
        return changed.Ok ? split.With(unit.Id, changed.Value) : new Refusal(changed.Trouble);
    }

    /// <summary>What it does, for an element of this name.</summary>
    protected abstract string Name(string element);

    /// <summary>Makes the change.</summary>
    protected abstract Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element);
}

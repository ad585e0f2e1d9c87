using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Lets an element follow its group, without a port of its own, or takes it out of the group into the main mix.</summary>
/// <param name="Element">Which.</param>
/// <param name="Follows">True to follow.</param>
public sealed record SetFollowsGroup(ElementRef Element, bool Follows) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => Follows ? $"{element} follows its group" : $"Take {element} out of its group";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) =>
        unit.Chart.Group(chart.Group) is null
            ? new Refusal($"{chart.Name} belongs to no group that carries sound.")
            : element with { FollowsGroup = Follows, Port = Follows ? null : element.Port, InMain = Follows || element.Port is null || element.InMain };
}

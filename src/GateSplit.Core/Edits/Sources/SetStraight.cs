using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Feeds an element to a port beside its usual way, or with null no more.</summary>
/// <param name="Element">Which.</param>
/// <param name="Straight">The send; null for none.</param>
public sealed record SetStraight(ElementRef Element, StraightSend? Straight) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) => Straight is null ? $"Feed {element} nowhere else" : $"Feed {element} to port {Straight.Port} too";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element) => Straight is { } send && (send.Port == unit.AssignedPort(element) || send.Port == unit.Chart.MainPort.Number)
        ? new Refusal($"{chart.Name} leaves by port {send.Port} already, or with the main mix: choose a port that it does not leave by.")
        : element with { Straight = Straight };
}

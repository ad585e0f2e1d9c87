using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Gives an element a port, or with null leaves it to the main mix.</summary>
/// <param name="Element">Which.</param>
/// <param name="Port">The port's number; null for the main mix alone.</param>
public sealed record AssignPort(ElementRef Element, int? Port) : ElementEdit(Element)
{
    /// <inheritdoc/>
    protected override string Name(string element) =>
        Port is null ? $"Leave {element} in the main mix" : $"Send {element} to port {Port}";

    /// <inheritdoc/>
    protected override Result<UnitElement> Change(Unit unit, ChartElement chart, UnitElement element)
    {
        if (Port is { } wanted && unit.Chart.Port(wanted) is null)
        {
            return new Refusal($"{unit.Name} has no port {wanted}.");
        }

        if (Port is { } number && !chart.Ports.IsEmpty && !chart.Ports.Contains(number))
        {
            return new Refusal(
                $"{unit.Name} sends {chart.Name} out of port {chart.Ports[0]} and no other. Give its track another input instead.");
        }

        var main = unit.Chart.MainPort.Number;
        var own = Port == main ? null : Port;
        return element with { Port = own, InMain = own is null || (element.InMain && !unit.Chart.AssignedLeavesMain) };
    }
}

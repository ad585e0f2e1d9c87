using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Declares further outputs of a source that lets its user do so. They carry nothing until it was loaded again.</summary>
/// <param name="UnitId">Which.</param>
/// <param name="Count">How many.</param>
/// <param name="Width">Of each.</param>
/// <param name="Label">What their names begin with; a number counted upward follows.</param>
/// <param name="From">The first of these numbers.</param>
public sealed record DeclarePorts(UnitId UnitId, int Count, Width Width, string Label, int From) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit) => $"Declare {Words.Count(Count, Width == Width.Mono ? "mono output" : "stereo output")} of {unit.Name}";

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit)
    {
        if (!unit.Chart.DeclaresPorts)
        {
            return new Refusal($"{unit.Name} has the outputs it has; none can be declared.");
        }

        if (Count is < 1 or > 64 || From is < 0 or > 999 || Label.Trim().Length is 0 or > 40)
        {
            return new Refusal("Declare 1 to 64 outputs at a time, with a name and a number to count from.");
        }

        var number = unit.Chart.Ports.Max(p => p.Number);
        var channel = unit.Chart.Channels;
        var ports = unit.Chart.Ports.ToBuilder();
        for (var i = 0; i < Count; i++)
        {
            ports.Add(new ChartPort(++number, $"{Label.Trim()} {From + i}", channel + 1, Width, Tap.AfterFader));
            channel += (int)Width;
        }

        if (channel > ChartRules.MostChannels)
        {
            return new Refusal($"{unit.Name} would have {channel} channels; {ChartRules.MostChannels} are the most.");
        }

        return unit with
        {
            Chart = unit.Chart with { Ports = ports.ToImmutable() },
            UnloadedPorts = [.. unit.UnloadedPorts, .. ports.Skip(unit.Chart.Ports.Length).Select(p => p.Number)],
        };
    }
}

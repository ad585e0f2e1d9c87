using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>How much a port of a source is turned up or down.</summary>
/// <param name="Port">The port's number.</param>
/// <param name="LevelDb">In dB.</param>
public sealed record PortLevel(int Port, Decibels LevelDb)
{
    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Chart chart, string place) =>
        Core.Misfits.Unless(chart.Port(Port) is not null && ChartRules.Levels.Hold(LevelDb), place, "A port that there is is turned up or down by -120 to +12 dB.");
}

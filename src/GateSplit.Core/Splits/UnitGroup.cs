using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>How a group of a source is set in this session.</summary>
/// <param name="Name">The group of the chart.</param>
public sealed record UnitGroup(string Name)
{
    /// <summary>The port of its own; null if it follows the main mix.</summary>
    public int? Port { get; init; }

    /// <summary>Fader in dB.</summary>
    public Decibels FaderDb { get; init; }

    /// <summary>True if it is muted on the source.</summary>
    public bool Muted { get; init; }

    /// <summary>Where all that follows it is fed to beside its usual way; null for nowhere.</summary>
    public StraightSend? Straight { get; init; }

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Unit unit, string place) =>
    [
        .. Core.Misfits.Unless(Name is not null && unit.Chart.Group(Name) is not null, $"{place}.name", $"{unit.Name} has no group {Name}."),
        .. Straight?.Misfits(unit.Chart, $"{place}.straight") ?? [],
        .. Core.Misfits.Unless(Port is not { } port || unit.Chart.Port(port) is not null, $"{place}.port", $"{unit.Name} has no port {Port}."),
        .. Core.Misfits.Unless(ChartRules.Levels.Hold(FaderDb), $"{place}.faderDb", "A fader goes from -120 to +12 dB."),
    ];
}

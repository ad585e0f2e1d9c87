using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>
/// A sub-mix inside a source: its elements follow it unless they have a port of their own, and it follows its parent, or
/// the main mix.
/// </summary>
/// <param name="Name">Its name, unique in the chart; elements name it as their group.</param>
public sealed record ChartGroup(string Name)
{
    /// <summary>The group it follows in turn; null for the main mix.</summary>
    public string? Parent { get; init; }

    /// <summary>The port it has when the source is new; null if it goes into the main mix.</summary>
    public int? Port { get; init; }

    /// <summary>Fader of a new source, in dB.</summary>
    public Decibels FaderDb { get; init; }

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Chart chart, string place) =>
    [
        .. Core.Misfits.Unless(Names.Fit(Name), $"{place}.name", "a name of 1 to 80 letters is needed."),
        .. Core.Misfits.Unless(Parent is null || chart.Group(Parent) is not null, $"{place}.parent", $"there is no group {Parent}."),
        .. Core.Misfits.Unless(Port is not { } port || chart.Port(port) is not null, $"{place}.port", $"there is no port {Port}."),
        .. Core.Misfits.Unless(ChartRules.Levels.Hold(FaderDb), $"{place}.faderDb", $"{ChartRules.Levels} are possible."),
    ];
}

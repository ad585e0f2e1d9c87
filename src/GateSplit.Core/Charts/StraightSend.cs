using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>
/// Feeds an element, or all that follows a group, to a port of its own beside its usual way: from before the fader of an element and with the
/// faders of the elements of a group, so that what is wet and what is dry can be recorded together.
/// </summary>
/// <param name="Port">The port.</param>
public sealed record StraightSend(int Port)
{
    /// <summary>Its level in dB.</summary>
    public Decibels LevelDb { get; init; }

    /// <summary>True to take it from before the elements' own effects; false for behind them.</summary>
    public bool BeforeEffects { get; init; }

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Chart chart, string place) =>
    [
        .. Core.Misfits.Unless(chart.Port(Port) is not null, $"{place}.port", $"There is no port {Port}."),
        .. Core.Misfits.Unless(ChartRules.Levels.Hold(LevelDb), $"{place}.levelDb", "A send goes from -120 to +12 dB."),
    ];
}

namespace GateSplit.Core.Splits;

/// <summary>How a group of a source is set in this session.</summary>
/// <param name="Name">The group of the chart.</param>
public sealed record UnitGroup(string Name)
{
    /// <summary>The port of its own; null if it follows the main mix.</summary>
    public int? Port { get; init; }

    /// <summary>Fader in dB.</summary>
    public double FaderDb { get; init; }

    /// <summary>True if it is muted on the source.</summary>
    public bool Muted { get; init; }
}

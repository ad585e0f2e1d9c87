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
    public double FaderDb { get; init; }
}

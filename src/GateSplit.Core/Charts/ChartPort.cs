namespace GateSplit.Core.Charts;

/// <summary>One numbered output of a source.</summary>
/// <param name="Number">1-based.</param>
/// <param name="Name">Its name on the source.</param>
/// <param name="FirstChannel">1-based first channel at the gate.</param>
/// <param name="Width">Mono or a pair.</param>
/// <param name="Tap">Where it listens.</param>
public sealed record ChartPort(int Number, string Name, int FirstChannel, Width Width, Tap Tap)
{
    /// <summary>True if this port carries the main mix.</summary>
    public bool IsMain { get; init; }

    /// <summary>1-based last channel.</summary>
    public int LastChannel => FirstChannel + (int)Width - 1;

    /// <summary>"3" or "3-4".</summary>
    public string Channels => Width == Width.Mono ? $"{FirstChannel}" : $"{FirstChannel}-{LastChannel}";

    /// <summary>True if it can stand in a chart: its number, its name and its channels are possible.</summary>
    internal bool IsSound => Number is >= 1 and <= ChartRules.HighestPort && Names.Fit(Name) && Enum.IsDefined(Width) && Enum.IsDefined(Tap)
        && FirstChannel is >= 1 and <= ChartRules.MostChannels && LastChannel <= ChartRules.MostChannels;
}

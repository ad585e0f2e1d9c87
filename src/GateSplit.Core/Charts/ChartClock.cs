namespace GateSplit.Core.Charts;

/// <summary>How a source can run in time with a recorder.</summary>
/// <param name="Follows">True if it can follow a clock.</param>
/// <param name="Leads">True if it can lead with a clock of its own.</param>
/// <param name="StartStop">True if it can receive start and stop.</param>
public sealed record ChartClock(bool Follows, bool Leads, bool StartStop)
{
    /// <summary>A plug-in: it lives inside the recorder and needs no clock.</summary>
    public static ChartClock None { get; } = new(false, false, false);

    /// <summary>True of gear whose clock has to be settled before a pass.</summary>
    public bool Any => Follows || Leads || StartStop;
}

namespace GateSplit.Core.Splits;

/// <summary>Who keeps time between a source and the recorder.</summary>
public enum ClockMode
{
    /// <summary>The source follows the recorder's clock and its start and stop.</summary>
    Follows,

    /// <summary>The source leads and the recorder follows.</summary>
    Leads,

    /// <summary>Neither: the source is started by hand and the tracks are moved together afterwards.</summary>
    Free,
}

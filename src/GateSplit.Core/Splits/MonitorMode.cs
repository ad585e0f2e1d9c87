namespace GateSplit.Core.Splits;

/// <summary>When a track's input is heard.</summary>
public enum MonitorMode
{
    /// <summary>Never.</summary>
    Never,

    /// <summary>While the track is armed.</summary>
    WhileArmed,

    /// <summary>Always.</summary>
    Always,
}

namespace GateSplit.Core.Views;

/// <summary>How much a finding matters.</summary>
public enum Severity
{
    /// <summary>Worth knowing.</summary>
    Note,

    /// <summary>The recording will not be what was meant.</summary>
    Warning,

    /// <summary>A pass cannot run like this.</summary>
    Stop,
}

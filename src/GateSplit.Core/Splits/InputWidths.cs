namespace GateSplit.Core.Splits;

/// <summary>Which tracks may listen to a bank: some recorders offer the channels of some inputs only as pairs.</summary>
public enum InputWidths
{
    /// <summary>Mono tracks anywhere, stereo tracks on any two neighbours.</summary>
    Any,

    /// <summary>Mono tracks anywhere, stereo tracks on 1-2, 3-4 and so on.</summary>
    PairsFromOdd,

    /// <summary>Only stereo tracks, on 1-2, 3-4 and so on.</summary>
    PairsOnly,
}

namespace GateSplit.Core.Charts;

/// <summary>How many channels something has.</summary>
public enum Width
{
    /// <summary>One channel.</summary>
    Mono = 1,

    /// <summary>A left and a right channel.</summary>
    Stereo = 2,
}

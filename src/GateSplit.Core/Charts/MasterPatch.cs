namespace GateSplit.Core.Charts;

/// <summary>The effects on the main mix of a source: a filter, a compressor and a drive, in this order.</summary>
public sealed record MasterPatch
{
    /// <summary>Where the low-pass has fallen by 3 dB, 200 to 20000 Hz; null for no filter.</summary>
    public double? LowPassHz { get; init; }

    /// <summary>Peak level above which the compressor turns down, -60 to 0 dBFS.</summary>
    public double ThresholdDb { get; init; } = -12;

    /// <summary>The compressor's ratio to one: 1 for none, 2 or 4.</summary>
    public int Ratio { get; init; } = 1;

    /// <summary>How hard the drive bends what is loud, 0 for none to 10.</summary>
    public double Drive { get; init; }
}

namespace GateSplit.Core.Proofing;

/// <summary>What of a pair is kept as one channel.</summary>
public enum MonoOf
{
    /// <summary>The left side.</summary>
    Left,

    /// <summary>The right side.</summary>
    Right,

    /// <summary>The mean of both.</summary>
    Mean,
}

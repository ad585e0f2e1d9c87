namespace GateSplit.Core.Proofing;

/// <summary>How the two sides of a pair lie to each other.</summary>
public enum PairState
{
    /// <summary>It is no pair, or holds nothing.</summary>
    None,

    /// <summary>Two sides, as they should be.</summary>
    Two,

    /// <summary>Both sides hold the same.</summary>
    OneChannel,

    /// <summary>One side is the other upside down.</summary>
    UpsideDown,

    /// <summary>The left side is silent.</summary>
    LeftMissing,

    /// <summary>The right side is silent.</summary>
    RightMissing,
}

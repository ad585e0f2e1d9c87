namespace GateSplit.Core.Handoff;

/// <summary>How lines are added up.</summary>
public enum StemLevels
{
    /// <summary>Each with its level, those of its groups, and its pan: the stems add up to the mix.</summary>
    Mixed,

    /// <summary>Each as it was recorded, mono lines on both sides.</summary>
    Flat,
}

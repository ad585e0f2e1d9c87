namespace GateSplit.Core.Planning;

/// <summary>What a print records.</summary>
public enum PrintKind
{
    /// <summary>The armed tracks, as the split says.</summary>
    Lines,

    /// <summary>The main mix of each source with everything in it and its master effects, to compare with.</summary>
    Mix,

    /// <summary>The shared effects alone: what feeds them goes nowhere else.</summary>
    Effects,

    /// <summary>The sum of each group of tracks, over an internal bus.</summary>
    Stems,

    /// <summary>The armed tracks one at a time through the outboard of a looped-back pair.</summary>
    Outboard,
}

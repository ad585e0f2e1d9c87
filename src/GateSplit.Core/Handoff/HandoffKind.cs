namespace GateSplit.Core.Handoff;

/// <summary>What a file of a handoff is. Each kind lies in a folder of its own, so that nobody lays a sum beside its parts unawares.</summary>
public enum HandoffKind
{
    /// <summary>One line, as it was recorded and mended.</summary>
    Line,

    /// <summary>A sum of lines: a group as one file.</summary>
    Stem,

    /// <summary>The effects of a source alone.</summary>
    Effects,

    /// <summary>A whole mix, to compare with.</summary>
    Reference,
}

namespace GateSplit.Core.Drawing;

/// <summary>What a rail stands for, which decides its stroke.</summary>
public enum RailKind
{
    /// <summary>A line of its own.</summary>
    Line,

    /// <summary>A return: dashed.</summary>
    Return,

    /// <summary>Only in the main mix: dotted.</summary>
    Main,

    /// <summary>A loop: in the stop colour, with an arrow.</summary>
    Loop,
}

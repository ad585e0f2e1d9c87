using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>One named change of a split: pure, and refused with a sentence where it makes no sense.</summary>
public abstract record Edit
{
    /// <summary>What it does, for the history and for undo: "Arm Snare".</summary>
    /// <param name="split">The split before the change.</param>
    public abstract string Name(Split split);

    /// <summary>Makes the change.</summary>
    /// <param name="split">The split before it.</param>
    /// <returns>The split after it, or why not.</returns>
    public abstract Result<Split> Apply(Split split);
}

using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>One named change of a split: pure, and refused with a sentence where it makes no sense.</summary>
public abstract record Edit
{
    /// <summary>What it does, for the history and for undo: "Arm Snare".</summary>
    /// <param name="split">The split before the change.</param>
    public abstract string Name(Split split);

    /// <summary>Makes the change.</summary>
    /// <param name="split">The split before it, a sound one.</param>
    /// <returns>The split after it, sound as well; or why not.</returns>
    public Result<Split> Apply(Split split)
    {
        var changed = Change(split);
        return changed.Ok && SplitRules.FirstMisfit(changed.Value, split) is { } misfit ? new Refusal(misfit.Sentence) : changed;
    }

    /// <summary>What the change does. Ranges and the like are seen to by <see cref="SplitRules"/> afterwards: an edit refuses only what it alone knows.</summary>
    protected internal abstract Result<Split> Change(Split split);
}

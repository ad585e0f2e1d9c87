using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Takes a roll, repeat or variation away.</summary>
/// <param name="Step">Which.</param>
public sealed record RemoveStep(PerformedStep Step) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Take the {Step.Words} off {split.NameOf(Step.Element)}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split.Steps.Contains(Step)
        ? split with { Steps = split.Steps.Remove(Step) }
        : new Refusal("This is gone already.");
}

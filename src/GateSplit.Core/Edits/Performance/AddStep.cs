using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Performs a roll, repeat or variation.</summary>
/// <param name="Step">Which and where.</param>
public sealed record AddStep(PerformedStep Step) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Perform on {split.NameOf(Step.Element)}: {Step.Words}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        return Misfits.First(Step.Misfits(split, "step", split.Pass.LengthBars)) is { } misfit
            ? new Refusal(misfit.Sentence)
            : split with { Steps = split.Steps.Add(Step) };
    }
}

using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Performs a roll, repeat or variation.</summary>
/// <param name="Step">Which and where.</param>
public sealed record AddStep(PerformedStep Step) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Perform on {split.NameOf(Step.Element)}: {Step.Words}";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split)
    {
        if (split.Unit(Step.Element.UnitId)?.Chart.Element(Step.Element.ElementId) is null)
        {
            return new Refusal($"There is no element {Step.Element} in this split any more.");
        }

        if (split.Steps.Length >= PerformedStep.Most)
        {
            return new Refusal($"A split has at most {PerformedStep.Most} rolls, repeats and variations.");
        }

        var end = split.Pass.LengthBars + 1;
        if (!(Step.FromBar >= 1 && Step.FromBar < Step.ToBar && Step.ToBar <= end))
        {
            return new Refusal($"It begins and ends between bar 1 and bar {end}, and begins first.");
        }

        var most = Step.Kind switch { StepKind.Roll => 16, StepKind.Repeat => 32, StepKind.Variation => split.Pass.LengthBars, _ => 0 };
        return Step.Number >= 1 && Step.Number <= most
            ? split with { Steps = split.Steps.Add(Step) }
            : new Refusal(Step.Kind switch
            {
                StepKind.Roll => "A roll has 1 to 16 strokes a quarter.",
                StepKind.Repeat => "A repeat goes 1 to 32 times to a bar.",
                _ => $"A variation plays the notes of one of the bars 1 to {most}.",
            });
    }
}

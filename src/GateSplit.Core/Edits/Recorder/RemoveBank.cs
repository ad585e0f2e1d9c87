using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Takes a row of inputs out, with its cables; tracks that listened there stay, without an input.</summary>
/// <param name="BankId">Which.</param>
public sealed record RemoveBank(BankId BankId) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Remove the inputs {split.Bank(BankId)?.Label}".TrimEnd();

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split.Bank(BankId) switch
    {
        null => new Refusal("This row of inputs is not in the split any more."),
        { UnitId: not null } => new Refusal("This row belongs to a source: disconnect it, or remove the source."),
        var bank => split.Without(bank).Tidied(),
    };
}

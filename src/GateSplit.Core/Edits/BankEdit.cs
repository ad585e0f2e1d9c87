using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>A change of one row of inputs.</summary>
/// <param name="BankId">Which.</param>
public abstract record BankEdit(BankId BankId) : Edit
{
    /// <inheritdoc/>
    public sealed override string Name(Split split) => split.Bank(BankId) is { } bank ? Name(bank) : "Change a row of inputs";

    /// <inheritdoc/>
    protected internal sealed override Result<Split> Change(Split split)
    {
        if (split.Bank(BankId) is not { } bank)
        {
            return new Refusal("This row of inputs is not in the split any more.");
        }

        var changed = Change(split, bank);
        return changed.Ok ? split.With(changed.Value).Tidied() : new Refusal(changed.Trouble);
    }

    /// <summary>What it does to this bank.</summary>
    protected abstract string Name(Bank bank);

    /// <summary>Makes the change.</summary>
    protected abstract Result<Bank> Change(Split split, Bank bank);
}

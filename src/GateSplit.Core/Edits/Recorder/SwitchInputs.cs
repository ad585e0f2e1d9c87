using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Switches inputs of a bank on or off in the recorder.</summary>
/// <param name="BankId">Which.</param>
/// <param name="From">The first, from 1.</param>
/// <param name="To">The last.</param>
/// <param name="On">True to switch them on.</param>
public sealed record SwitchInputs(BankId BankId, int From, int To, bool On) : BankEdit(BankId)
{
    /// <inheritdoc/>
    protected override string Name(Bank bank) =>
        $"Switch {(From == To ? bank.InputName(From, Width.Mono) : $"{bank.Label} {From}-{To}")} {(On ? "on" : "off")}";

    /// <inheritdoc/>
    protected override Result<Bank> Change(Split split, Bank bank)
    {
        if (From < 1 || To < From || To > bank.Count)
        {
            return new Refusal($"{bank.Label} has the inputs 1 to {bank.Count}.");
        }

        var meant = Enumerable.Range(From, To - From + 1);
        return bank with { Off = [.. (On ? bank.Off.Except(meant) : bank.Off.Union(meant)).Order()] };
    }
}

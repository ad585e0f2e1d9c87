using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Adds a row of inputs that belongs to no source: sockets of an interface, a looped-back pair, buses.</summary>
/// <param name="Kind">What sort.</param>
/// <param name="Label">What stands before the number.</param>
/// <param name="Count">How many inputs.</param>
public sealed record AddBank(BankKind Kind, string Label, int Count) : Edit
{
    /// <summary>The sorts of inputs that can be added.</summary>
    public static ImmutableArray<BankKind> Kinds { get; } = [BankKind.Analog, BankKind.Loopback, BankKind.Buses];

    /// <inheritdoc/>
    public override string Name(Split split) => $"Add the inputs {Label}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Banks.Length >= SplitRules.MostBanks || !Kinds.Contains(Kind))
        {
            return new Refusal($"A split has at most {SplitRules.MostBanks} rows of inputs, and only sockets, looped-back pairs and buses are added by hand.");
        }

        if (split.Banks.Any(b => string.Equals(b.Label, Label.Trim(), StringComparison.OrdinalIgnoreCase)))
        {
            return new Refusal($"There is a row of inputs called {Label.Trim()} already.");
        }

        var id = Enumerable.Range(1, SplitRules.MostBanks + 1).Select(n => $"in{n}").First(n => split.Bank(new BankId(n)) is null);
        var bank = new Bank(new BankId(id), Label.Trim(), Kind, Count, null)
        {
            Widths = Kind == BankKind.Buses ? InputWidths.Any : InputWidths.PairsFromOdd,
        };
        var at = Kind == BankKind.Buses ? split.Banks.Length : split.Banks.TakeWhile(b => b.Kind != BankKind.Buses).Count();
        var added = split with { Banks = split.Banks.Insert(at, bank) };
        return new SetBank(bank).Apply(added);
    }
}

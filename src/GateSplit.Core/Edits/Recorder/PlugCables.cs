using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Plugs cables from neighbouring channels of a source into neighbouring inputs. What was plugged in there is pulled.</summary>
/// <param name="UnitId">The source.</param>
/// <param name="Channel">The first channel of its gate.</param>
/// <param name="Count">How many cables.</param>
/// <param name="Input">The first input.</param>
/// <param name="Pass">The only pass in which they are plugged in; null for all.</param>
public sealed record PlugCables(UnitId UnitId, int Channel, int Count, InputRef Input, int? Pass = null) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split)
    {
        static string Run(int from, int count) => count == 1 ? $"{from}" : $"{from}-{from + count - 1}";
        return $"Plug {split.Unit(UnitId)?.Name} {Run(Channel, Count)} into {split.Bank(Input.BankId)?.Label} {Run(Input.Channel, Count)}";
    }

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Unit(UnitId) is not { } unit || split.Bank(Input.BankId) is not { } bank)
        {
            return new Refusal("This source or these inputs are not in the split any more.");
        }

        if (Count < 1 || Count > unit.Chart.Channels)
        {
            return new Refusal($"{unit.Name} has the channels 1 to {unit.Chart.Channels}: as many cables can be plugged in.");
        }

        var plugged = Enumerable.Range(0, Count)
            .Select(i => new Cable(UnitId, Channel + i, Input with { Channel = Input.Channel + i }, Pass))
            .ToImmutableArray();
        var taken = plugged.Select(c => c.Input).ToHashSet();

        // On a looped-back pair outputs are summed; a socket takes one plug.
        var kept = split.Cables.RemoveAll(c => taken.Contains(c.Input)
            && (c.Pass is null || Pass is null || c.Pass == Pass)
            && (bank.Kind == BankKind.Analog || c.UnitId == UnitId));
        return split with { Cables = kept.AddRange(plugged) };
    }
}

using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>A change of one source of the session.</summary>
/// <param name="UnitId">Which.</param>
public abstract record UnitEdit(UnitId UnitId) : Edit
{
    /// <inheritdoc/>
    public sealed override string Name(Split split) => split.Unit(UnitId) is { } unit ? Name(unit) : "Change a source";

    /// <inheritdoc/>
    protected internal sealed override Result<Split> Change(Split split)
    {
        if (split.Unit(UnitId) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        var changed = Change(unit);
        return changed.Ok ? Fitted(split.With(changed.Value), changed.Value).Tidied() : new Refusal(changed.Trouble);
    }

    /// <summary>The row of inputs has as many of them as the source has channels.</summary>
    private static Split Fitted(Split split, Unit unit) => split.BankOf(unit).Count == unit.Chart.Channels
        ? split
        : split with { Banks = [.. split.Banks.Select(b => b.UnitId == unit.Id ? b with { Count = unit.Chart.Channels } : b)] };

    /// <summary>What it does to this source.</summary>
    protected abstract string Name(Unit unit);

    /// <summary>Makes the change.</summary>
    protected abstract Result<Unit> Change(Unit unit);
}

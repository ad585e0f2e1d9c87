namespace GateSplit.Core.Splits;

/// <summary>A change of one source of the session.</summary>
/// <param name="UnitId">Which.</param>
public abstract record UnitEdit(string UnitId) : Edit
{
    /// <inheritdoc/>
    public sealed override string Name(Split split) => split.Unit(UnitId) is { } unit ? Name(unit) : "Change a source";

    /// <inheritdoc/>
    public sealed override Result<Split> Apply(Split split)
    {
        if (split.Unit(UnitId) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        var changed = Change(unit);
        return changed.Ok ? split.With(changed.Value) : new Refusal(changed.Trouble);
    }

    /// <summary>What it does to this source.</summary>
    protected abstract string Name(Unit unit);

    /// <summary>Makes the change.</summary>
    protected abstract Result<Unit> Change(Unit unit);
}

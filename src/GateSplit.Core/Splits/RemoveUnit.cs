namespace GateSplit.Core.Splits;

/// <summary>Takes a source out of the session, with its row of inputs; tracks that listened there stay, without an input.</summary>
/// <param name="UnitId">Which.</param>
public sealed record RemoveUnit(string UnitId) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Remove {split.Unit(UnitId)?.Name ?? "a source"}";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split)
    {
        if (split.Unit(UnitId) is not { } unit)
        {
            return new Refusal("This source is not in the split any more.");
        }

        var bank = split.BankOf(unit).Id;
        return split with
        {
            Units = split.Units.Remove(unit),
            Banks = [.. split.Banks.Where(b => b.Id != bank)],
            Tracks = [.. split.Tracks.Select(t => t.Input?.BankId == bank ? t with { Input = null } : t)],
        };
    }
}

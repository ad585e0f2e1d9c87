using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Exchanges left and right of a pair.</summary>
/// <param name="TrackId">Which.</param>
public sealed record ExchangeSides(TrackId TrackId) : Mend
{
    /// <inheritdoc/>
    public override string Name(MendedTake take) => $"Exchange the sides of {take.NameOf(TrackId)}";

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take) => take.With(TrackId, t => t.Plan.Gains is [var left, var right]
        ? t with { Plan = t.Plan with { Gains = [right, left] } }
        : new Refusal($"{t.Name} is no pair, so it has no sides."));
}

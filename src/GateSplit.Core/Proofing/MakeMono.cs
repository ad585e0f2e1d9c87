using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Keeps one channel of a pair.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Of">One side, or the mean of both.</param>
public sealed record MakeMono(TrackId TrackId, MonoOf Of) : Mend
{
    /// <inheritdoc/>
    public override string Name(MendedTake take) => Of == MonoOf.Mean ? $"Mean of both sides of {take.NameOf(TrackId)} as mono" : $"{Of} side of {take.NameOf(TrackId)} as mono";

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take) => take.With(TrackId, t => t.Plan.Gains is [var left, var right]
        ? t with { Plan = t.Plan with { Gains = [Of switch { MonoOf.Left => left, MonoOf.Right => right, _ => [.. left.Zip(right, (l, r) => (l + r) / 2)] }] } }
        : new Refusal($"{t.Name} is no pair, so it has no sides."));
}

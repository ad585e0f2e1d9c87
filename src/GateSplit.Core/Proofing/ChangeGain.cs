using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Turns tracks up or down, all by the same.</summary>
/// <param name="TrackIds">Which.</param>
/// <param name="Gain">By how much.</param>
public sealed record ChangeGain(ImmutableArray<TrackId> TrackIds, Decibels Gain) : Mend
{
    /// <summary>By how much it may be.</summary>
    public static Limits<Decibels> Gains => new(new(-60), new(40));

    /// <inheritdoc/>
    public override string Name(MendedTake take) => $"{Words.List([.. TrackIds.Select(take.NameOf)])} {Gain}";

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take)
    {
        if (!Gains.Hold(Gain) || TrackIds.IsDefaultOrEmpty)
        {
            return new Refusal($"Tracks are turned by {Gains.Low} to {Gains.High}.");
        }

        Result<MendedTake> changed = take;
        foreach (var id in TrackIds)
        {
            changed = changed.Ok ? changed.Value.With(id, t => t with { Plan = t.Plan with { Gains = [.. t.Plan.Gains.Select(row => row.Select(g => g * Gain.Ratio).ToImmutableArray())] } }) : changed;
        }

        return changed;
    }
}

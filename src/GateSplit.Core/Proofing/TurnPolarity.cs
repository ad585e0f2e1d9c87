using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Turns a track upside down, or one side of it.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="RightOnly">True for the right side of a pair only.</param>
public sealed record TurnPolarity(TrackId TrackId, bool RightOnly = false) : Mend
{
    /// <inheritdoc/>
    public override string Name(MendedTake take) => $"Turn the polarity of {take.NameOf(TrackId)}{(RightOnly ? ", right side" : "")}";

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take) => take.With(TrackId, t => RightOnly && t.Plan.Gains.Length != 2
        ? new Refusal($"{t.Name} is no pair.")
        : t with { Plan = t.Plan with { Gains = [.. t.Plan.Gains.Select((row, r) => RightOnly && r == 0 ? row : [.. row.Select(g => g == 0 ? 0 : -g)])] } });
}

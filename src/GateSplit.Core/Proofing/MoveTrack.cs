using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Moves one track against its take.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Seconds">By how much earlier it becomes; later below 0. It is moved by whole frames.</param>
public sealed record MoveTrack(TrackId TrackId, double Seconds) : Mend
{
    /// <inheritdoc/>
    public override string Name(MendedTake take) => MoveTake.Moved(take.NameOf(TrackId), Seconds);

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take) => MoveTake.Moves.Hold(Seconds)
        ? take.With(TrackId, t => t with { Plan = t.Plan.Placed(Math.Round(Seconds * t.Rate.Hz), 0) })
        : new Refusal($"A track is moved by {MoveTake.Moves} seconds.");
}

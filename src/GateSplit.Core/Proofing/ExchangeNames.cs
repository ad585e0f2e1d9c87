using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Exchanges what two tracks hold: each is handed off under the other's name.</summary>
/// <param name="One">The one.</param>
/// <param name="Other">The other.</param>
public sealed record ExchangeNames(TrackId One, TrackId Other) : Mend
{
    /// <inheritdoc/>
    public override string Name(MendedTake take) => $"Exchange {take.NameOf(One)} and {take.NameOf(Other)}";

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take)
    {
        if (take.Tracks.FirstOrDefault(t => t.Id == One) is not { } one || take.Tracks.FirstOrDefault(t => t.Id == Other) is not { } other || one == other)
        {
            return new Refusal("Two tracks of this take are needed to exchange their names.");
        }

        return take with
        {
            Tracks = take.Tracks.Replace(one, one with { File = other.File, Rate = other.Rate, Plan = other.Plan }).Replace(other, other with { File = one.File, Rate = one.Rate, Plan = one.Plan }),
        };
    }
}

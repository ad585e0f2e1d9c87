using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Writes a ride, in place of the one that control had.</summary>
/// <param name="Ride">The ride; without points it is taken away.</param>
public sealed record SetRide(Ride Ride) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => Ride.Points.IsDefaultOrEmpty
        ? $"Take the {Ride.Word} ride off {split.NameOf(Ride.Element)}"
        : $"Ride the {Ride.Word} of {split.NameOf(Ride.Element)}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (!split.HasElement(Ride.Element))
        {
            return new Refusal($"There is no element {Ride.Element} in this split any more.");
        }

        var others = split.Rides.RemoveAll(r => r.Element == Ride.Element && r.Control == Ride.Control);
        if (Ride.Points.IsDefaultOrEmpty)
        {
            return split with { Rides = others };
        }

        var ride = Ride with { Points = [.. Ride.Points.OrderBy(p => p.Bar)] };
        return Misfits.First(ride.Misfits(split, "ride", split.Pass.LengthBars)) is { } misfit
            ? new Refusal(misfit.Sentence)
            : split with { Rides = others.Add(ride) };
    }
}

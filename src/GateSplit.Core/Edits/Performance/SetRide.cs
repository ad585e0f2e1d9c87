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

        if (!Enum.IsDefined(Ride.Control) || Ride.Points.IsDefault || Ride.Points.Length > Ride.MostPoints)
        {
            return new Refusal($"A ride has up to {Ride.MostPoints} points.");
        }

        var (low, high) = Ride.Range(Ride.Control);
        if (Ride.Points.FirstOrDefault(p => !(p.Value >= low && p.Value <= high) || !(p.Bar >= 1 && p.Bar <= split.Pass.LengthBars + 1)) is { } wrong)
        {
            return new Refusal($"The {Ride.Word} goes from {low} to {high}, and the bars from 1 to {split.Pass.LengthBars + 1}: {wrong.Value} at bar {wrong.Bar} does not fit.");
        }

        var others = split.Rides.RemoveAll(r => r.Element == Ride.Element && r.Control == Ride.Control);
        return split with { Rides = Ride.Points.IsEmpty ? others : others.Add(Ride with { Points = [.. Ride.Points.OrderBy(p => p.Bar)] }) };
    }
}

using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>What a roll call heard of one element.</summary>
/// <param name="Turn">Its turn.</param>
/// <param name="At">When its first hit was heard, in seconds of the recording; null if it was heard nowhere.</param>
/// <param name="Arrivals">The channels on which it was heard, the loudest first.</param>
/// <param name="BesideSeconds">By how much later than the others it arrives on its loudest channel; null where that cannot be told.</param>
/// <param name="Signature">What it sounds like: the share of each band of its energy, in three stretches of time.</param>
public sealed record TurnHeard(Turn Turn, double? At, ImmutableArray<Arrival> Arrivals, double? BesideSeconds, ImmutableArray<double> Signature)
{
    /// <summary>From the loudest down to here it is the element itself; what is quieter is crosstalk.</summary>
    private const double Itself = 20; // dB

    private const double MoreThanBleed = 15; // dB over what bleeds in by the split

    /// <summary>Channels on which it is more than crosstalk.</summary>
    public IEnumerable<Arrival> Main => Arrivals.Where(a => a.Level.Value >= Arrivals[0].Level.Value - Itself);

    /// <summary>Channels on which it should be and is not.</summary>
    public IEnumerable<int> Missing => Turn.Planned.Where(p => p.Direct && !Arrivals.Any(a => a.Channel == p.Channel && a.Level.Value >= Arrivals[0].Level.Value - Expected(p) - Itself)).Select(p => p.Channel);

    /// <summary>Channels on which it is and should not be, or only as bleed.</summary>
    public IEnumerable<int> Extra => Arrivals.IsEmpty ? [] : Main.Where(a => !Turn.Planned.Any(p => p.Channel == a.Channel && (p.Direct || Expected(p) < MoreThanBleed + Arrivals[0].Level.Value - a.Level.Value))).Select(a => a.Channel);

    /// <summary>True if it is heard where the split says and nowhere else.</summary>
    public bool AsPlanned => !Arrivals.IsEmpty && !Missing.Any() && !Extra.Any();

    /// <summary>By how much less of it should be on a channel than on the loudest that is planned, in dB.</summary>
    private double Expected(PlannedInput planned) => Turn.Planned.Max(p => p.Gain).Value - planned.Gain.Value;
}

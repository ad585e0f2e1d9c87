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
    private const double Louder = 6; // dB by which it is so at least
    private const double Exchanged = 15; // dB by which what should only bleed is louder than it should be against where the element itself should be

    /// <summary>Channels on which it is more than crosstalk.</summary>
    public IEnumerable<Arrival> Main => Arrivals.Where(a => a.Level.Value >= Arrivals[0].Level.Value - Itself);

    /// <summary>Channels on which it should be and is not.</summary>
    public IEnumerable<int> Missing => Turn.Planned.Where(p => p.Direct && !(LevelOn(p.Channel) >= Arrivals[0].Level.Value - Expected(p) - Itself && !Arrivals.Any(a => Turn.Planned.Any(b => b.Channel == a.Channel && !b.Direct) && TakesPlaceOf(a, p)))).Select(p => p.Channel);

    /// <summary>Channels on which it is and should not be, or only as bleed.</summary>
    public IEnumerable<int> Extra => Arrivals.IsEmpty ? [] : Main.Where(a => !Turn.Planned.Any(p => p.Channel == a.Channel && (p.Direct || IsBleed(a, p)))).Select(a => a.Channel);

    /// <summary>True if it is heard where the split says and nowhere else.</summary>
    public bool AsPlanned => !Arrivals.IsEmpty && !Missing.Any() && !Extra.Any();

    private bool IsBleed(Arrival arrival, PlannedInput planned) =>
        (Arrivals[0].Clips || Expected(planned) < MoreThanBleed + Arrivals[0].Level.Value - arrival.Level.Value) && !Turn.Planned.Any(p => p.Direct && TakesPlaceOf(arrival, p));

    /// <summary>True if a channel into which it should only bleed has so much more of it than one where it should be, that the two are exchanged.</summary>
    private bool TakesPlaceOf(Arrival bleed, PlannedInput direct) =>
        Turn.Planned.FirstOrDefault(p => p.Channel == bleed.Channel) is { } planned
        && bleed.Level.Value - LevelOn(direct.Channel) > Math.Max(Louder, Expected(direct) - Expected(planned) + Exchanged);

    private double LevelOn(int channel) => Arrivals.Where(a => a.Channel == channel).Select(a => a.Level.Value).DefaultIfEmpty(double.NegativeInfinity).First();

    /// <summary>By how much less of it should be on a channel than on the loudest that is planned, in dB.</summary>
    private double Expected(PlannedInput planned) => Turn.Planned.Max(p => p.Gain).Value - planned.Gain.Value;
}

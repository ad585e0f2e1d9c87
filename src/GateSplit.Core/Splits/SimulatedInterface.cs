using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>How the simulated interface really behaves, whatever the split says. By default it is ideal.</summary>
public sealed record SimulatedInterface
{
    /// <summary>Inputs whose cables are in each other's place.</summary>
    public ImmutableArray<CrossedInputs> Crossed { get; init; } = [];

    /// <summary>Noise of each converter in dBFS RMS, -140 to -30; null for none.</summary>
    public Decibels? NoiseDb { get; init; }

    /// <summary>Samples by which everything is recorded late, 0 to 10000.</summary>
    public int LatencySamples { get; init; }

    /// <summary>Samples by which looped-back pairs are really late, 0 to 48000; null for what the split says.</summary>
    public int? RoundTripSamples { get; init; }

    /// <summary>True if a converter cuts off what is above full scale even where files could hold it.</summary>
    public bool Clips { get; init; }

    /// <summary>Where what is meant for an input really arrives.</summary>
    public InputRef Arrival(InputRef input)
    {
        foreach (var (a, b) in Crossed)
        {
            if (input == a || input == b)
            {
                return input == a ? b : a;
            }
        }

        return input;
    }

    /// <summary>Noise of a converter or of outboard, in dBFS RMS.</summary>
    public static Limits<Decibels> Noises => new(new(-140), new(-30));

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Split split, string place)
    {
        if (!Noises.Hold(NoiseDb) || LatencySamples is < 0 or > 10000 || RoundTripSamples is < 0 or > Splits.Bank.LongestDelaySamples)
        {
            yield return new Misfit(place, $"Noise goes from -140 to -30 dBFS, latency from 0 to 10000 samples, a round trip from 0 to {Splits.Bank.LongestDelaySamples}.");
        }

        if (Crossed.IsDefault || Crossed.Any(c => c?.A is null || c.B is null || !split.HasInput(c.A) || !split.HasInput(c.B)))
        {
            yield return new Misfit($"{place}.crossed", "There is no such input to cross.");
        }
        else if (Crossed.SelectMany(c => new[] { c.A, c.B }).Distinct().Count() != 2 * Crossed.Length)
        {
            yield return new Misfit($"{place}.crossed", "Each input can be crossed with one other only.");
        }
    }
}

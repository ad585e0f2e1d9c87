using System.Collections.Immutable;

namespace GateSplit.Core.Splits;

/// <summary>How the simulated interface really behaves, whatever the split says. By default it is ideal.</summary>
public sealed record SimulatedInterface
{
    /// <summary>Inputs whose cables are in each other's place.</summary>
    public ImmutableArray<CrossedInputs> Crossed { get; init; } = [];

    /// <summary>Noise of each converter in dBFS RMS, -140 to -30; null for none.</summary>
    public double? NoiseDb { get; init; }

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
}

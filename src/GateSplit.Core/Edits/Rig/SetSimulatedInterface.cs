using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sets how the simulated interface really behaves.</summary>
/// <param name="Interface">How.</param>
public sealed record SetSimulatedInterface(SimulatedInterface Interface) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => "Set how the simulated interface behaves";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split)
    {
        if (Interface is not { NoiseDb: null or (>= -140 and <= -30), LatencySamples: >= 0 and <= 10000, RoundTripSamples: null or (>= 0 and <= SetBank.LongestDelaySamples) })
        {
            return new Refusal($"Noise goes from -140 to -30 dBFS, latency from 0 to 10000 samples, a round trip from 0 to {SetBank.LongestDelaySamples}.");
        }

        var crossed = Interface.Crossed.IsDefault ? [] : Interface.Crossed.SelectMany(c => new[] { c.A, c.B }).ToList();
        if (Interface.Crossed.IsDefault || crossed.Any(i => split.Bank(i.BankId) is not { } bank || i.Channel < 1 || i.Channel > bank.Count))
        {
            return new Refusal("There is no such input to cross.");
        }

        return crossed.Distinct().Count() == crossed.Count
            ? split with { Interface = Interface }
            : new Refusal("Each input can be crossed with one other only.");
    }
}

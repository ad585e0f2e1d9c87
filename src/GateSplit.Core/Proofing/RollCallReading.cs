using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>What a recording of a roll call says.</summary>
/// <param name="Call">What was called.</param>
/// <param name="StartSeconds">Where the first hit of the marker lies in the recording; null for one that was played by hand.</param>
/// <param name="DriftPpm">By how many millionths the recording runs slow; null where that cannot be told.</param>
/// <param name="Turns">What was heard of each turn.</param>
/// <param name="Floors">The noise of each channel between the turns, RMS.</param>
public sealed record RollCallReading(RollCall Call, double? StartSeconds, double? DriftPpm, ImmutableArray<TurnHeard> Turns, ImmutableArray<Decibels> Floors)
{
    /// <summary>Reads a recording of all inputs.</summary>
    /// <param name="call">What was called.</param>
    /// <param name="channels">Its channels, in the order of the inputs, all of one sample rate.</param>
    /// <param name="byHand">True if it was played by hand.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <returns>What was heard; or a sentence where the order cannot be found in it.</returns>
    public static Result<RollCallReading> Of(RollCall call, IReadOnlyList<IMonoSound> channels, bool byHand = false, CancellationToken cancel = default) =>
        new RollCallReader(call, channels, cancel).Read(byHand);
}

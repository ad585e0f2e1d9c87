using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>What of an element arrives in a track.</summary>
/// <param name="Element">The element.</param>
/// <param name="TrackId">The track.</param>
/// <param name="Gain">The product of the gains along its direct paths, summed over them.</param>
/// <param name="ThroughReturn">The same for the paths through a shared effect, as far as the effect's input and on from its output.</param>
public sealed record Contribution(ElementRef Element, TrackId TrackId, Gain2x2 Gain, Gain2x2 ThroughReturn)
{
    /// <summary>Samples by which the latest of its direct paths is late.</summary>
    public int DelaySamples { get; init; }
}

using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>A port that a track listens to.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="Port">The port's number.</param>
/// <param name="TrackId">The track.</param>
/// <param name="Gain">From the port's channels to the track's.</param>
public sealed record TrackFeed(UnitId UnitId, int Port, TrackId TrackId, Gain2x2 Gain)
{
    /// <summary>Samples by which it arrives late, as over a looped-back pair.</summary>
    public int DelaySamples { get; init; }

    /// <summary>How hard outboard on the way bends what is loud, 0 for none.</summary>
    public double Drive { get; init; }
}

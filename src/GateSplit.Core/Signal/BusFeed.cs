using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>A track that another track hears through a bus.</summary>
/// <param name="FromTrackId">The track that feeds the bus.</param>
/// <param name="ToTrackId">The track that listens to it.</param>
/// <param name="Gain">From the one's channels to the other's.</param>
public sealed record BusFeed(TrackId FromTrackId, TrackId ToTrackId, Gain2x2 Gain)
{
    /// <summary>Samples by which it arrives late, as over a looped-back pair.</summary>
    public int DelaySamples { get; init; }

    /// <summary>How hard outboard on the way bends what is loud, 0 for none.</summary>
    public double Drive { get; init; }
}

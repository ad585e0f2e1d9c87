using GateSplit.Core.Proofing;

namespace GateSplit.Data;

/// <summary>Takes as what mends begin with.</summary>
public static class TakeMends
{
    /// <summary>A take before any mend.</summary>
    public static MendedTake Of(Take take) =>
        new([.. take.Tracks.Select((t, i) => new MendedTrack(t.TrackId, t.Name, i, t.SampleRate, RenderPlan.AsItIs(t.Channels, t.Frames)))]);
}

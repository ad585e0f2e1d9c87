using GateSplit.Core;
using GateSplit.Core.Proofing;

namespace GateSplit.Data;

/// <summary>Takes as what mends begin with, and what becomes of them.</summary>
public static class TakeMends
{
    /// <summary>A take before any mend.</summary>
    public static MendedTake Of(Take take) =>
        new([.. take.Tracks.Select((t, i) => new MendedTrack(t.TrackId, t.Name, i, t.SampleRate, RenderPlan.AsItIs(t.Channels, t.Frames)))]);

    /// <summary>The tracks of a take as its mends make them, in their order.</summary>
    /// <returns>Or why its mends cannot be made.</returns>
    public static Result<IReadOnlyList<MendedLine>> Lines(Take take, MendList mends)
    {
        var mended = Of(take).With(mends.Mends);
        return mended.Ok
            ? mended.Value.Tracks.Select(m => new MendedLine(take.Tracks.First(t => t.TrackId == m.Id), take.Tracks[m.File], m.Plan)).ToList()
            : new Refusal(mended.Trouble);
    }

    /// <summary>The mends of a take in words, each as it is done.</summary>
    public static IEnumerable<string> Names(Take take, MendList mends) => MendNames.Of(Of(take), mends.Mends);
}

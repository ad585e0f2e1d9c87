using System.Collections.Immutable;
using System.Text.Json.Serialization;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>A take in a bundle.</summary>
/// <param name="Number">Counted from 1 within the session.</param>
/// <param name="Printed">True if it was printed, false if it was recorded elsewhere and brought in.</param>
/// <param name="Revision">The revision of the split it was made with.</param>
/// <param name="Note">A remark.</param>
/// <param name="Made">When, in UTC.</param>
/// <param name="Notes">The file of the notes that sounded; null where nobody knows.</param>
/// <param name="Tracks">Its tracks, in order.</param>
/// <param name="Mends">Its mends, in order.</param>
/// <param name="Undone">What was undone, the last first.</param>
/// <param name="OnTrial">How many of the mends, the last ones, are on trial.</param>
/// <param name="Accepted">What proof finds of it and is meant so.</param>
public sealed record BundledTake(
    int Number,
    bool Printed,
    int Revision,
    string Note,
    DateTime Made,
    string? Notes,
    ImmutableArray<BundledTrack> Tracks,
    ImmutableArray<Mend> Mends,
    ImmutableArray<Mend> Undone,
    int OnTrial,
    ImmutableArray<BundledReason> Accepted)
{
    /// <summary>The mends that are not on trial, which are made.</summary>
    [JsonIgnore]
    public IEnumerable<Mend> Settled => Mends.SkipLast(OnTrial);

    /// <summary>It before any mend.</summary>
    /// <param name="files">Shapes and lengths of its recordings, in the order of its tracks.</param>
    public MendedTake Unmended(IReadOnlyList<(AudioFormat Format, Frames Frames)> files) =>
        new([.. Tracks.Select((t, i) => new MendedTrack(t.TrackId, t.Name, i, files[i].Format.SampleRate, RenderPlan.AsItIs(files[i].Format.Channels, files[i].Frames)))]);
}

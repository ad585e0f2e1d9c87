using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>One track of a take that can be handed off: the stored file it is made from, and what becomes of it.</summary>
/// <param name="TrackId">The track.</param>
/// <param name="Name">Its name then.</param>
/// <param name="Take">The take it was recorded in.</param>
/// <param name="Source">Where it came from, in words: source, port and input.</param>
/// <param name="Audio">The stored file, by the hash of its bytes.</param>
/// <param name="Stored">The shape of the samples of that file.</param>
/// <param name="StoredFrames">Its length.</param>
/// <param name="Plan">What its mends make of it.</param>
/// <param name="Mended">True if anything was mended.</param>
public sealed record HandoffLine(
    TrackId TrackId, string Name, HandoffTake Take, string Source, string Audio, AudioFormat Stored, Frames StoredFrames, RenderPlan Plan, bool Mended)
{
    /// <summary>A remark, such as that it was stopped early, and damage that was read around.</summary>
    public string Remark { get; init; } = "";

    /// <summary>What proof says of it; empty where it was not proved as it stands.</summary>
    public string Verdict { get; init; } = "";

    /// <summary>How loud it is as it stands; null where nobody has measured it.</summary>
    public HandoffLevels? Levels { get; init; }

    /// <summary>The pass it was recorded in.</summary>
    public int Pass { get; init; } = 1;

    /// <summary>Its key: "line:t3".</summary>
    public string Key => $"line:{TrackId}";

    /// <summary>The shape of its samples as mended.</summary>
    public AudioFormat Format => MendedRecording.FormatOf(Stored, Plan);

    /// <summary>The track as it was in the split of its take; null if that does not have it.</summary>
    public Track? Then => Take.View.Split.Track(TrackId);
}

using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Data;

/// <summary>One track of a take as the mends of its take make it.</summary>
/// <param name="Track">The track it is handed off as.</param>
/// <param name="Printed">The track whose printed file it is made from: another one where names were exchanged.</param>
/// <param name="Plan">How it is made.</param>
public sealed record MendedLine(TakeTrack Track, TakeTrack Printed, RenderPlan Plan)
{
    /// <summary>True if it is the printed file, byte for byte.</summary>
    public bool IsAsPrinted => Plan.IsAsItIs(Printed.Frames);

    /// <summary>The shape of its samples.</summary>
    public AudioFormat Format => MendedRecording.FormatOf(Printed.Format, Plan);

    /// <summary>Its length.</summary>
    public Frames Frames => Plan.Frames;

    /// <summary>A track as it was printed.</summary>
    public static MendedLine AsPrinted(TakeTrack track) => new(track, track, RenderPlan.AsItIs(track.Channels, track.Frames));
}

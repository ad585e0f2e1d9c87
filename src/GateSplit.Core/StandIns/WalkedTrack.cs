using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>What of an element was measured on a track, beside what the split says should arrive there.</summary>
/// <param name="TrackId">The track.</param>
/// <param name="Predicted">RMS of both sides together by the split.</param>
/// <param name="Measured">RMS of both sides together as it arrived.</param>
/// <param name="Peak">The highest sample that arrived.</param>
/// <param name="Meter">The highest sample of each twentieth of a second.</param>
public sealed record WalkedTrack(TrackId TrackId, Decibels Predicted, Decibels Measured, Decibels Peak, ImmutableArray<float> Meter)
{
    /// <summary>What is no stronger than this, RMS below full scale, has not arrived.</summary>
    public static readonly Decibels Silent = new(-90);

    /// <summary>A difference of more than this is told.</summary>
    public static readonly Decibels Tolerance = new(0.5);

    /// <summary>True if it comes through master effects, which change its level as they will.</summary>
    public bool ThroughMaster { get; init; }

    /// <summary>True if something arrived.</summary>
    public bool Arrived => Measured > Silent;

    /// <summary>True if the split says that it arrives.</summary>
    public bool Meant { get; init; }

    /// <summary>True if it is as the split says.</summary>
    public bool Agrees => Arrived == Meant && (!Meant || ThroughMaster || Math.Abs((Measured - Predicted).Value) <= Tolerance.Value);
}

using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>One file of a take that is to be judged.</summary>
/// <param name="Name">What it is called on pages and in sentences: the name of its track.</param>
/// <param name="Wave">The open file; stays the caller's.</param>
/// <param name="Part">The part its name says it holds; null where nothing is known of it.</param>
public sealed record ProofFile(string Name, WaveReader Wave, int? Part)
{
    /// <summary>Names it for who asks, as by the id of its track; null where its name does.</summary>
    public string? Id { get; init; }

    /// <summary>How long it was before mends moved its end; null for as long as it is.</summary>
    public Frames? Recorded { get; init; }
}

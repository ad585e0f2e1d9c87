using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>All that a handoff can be made of.</summary>
/// <param name="Session">The session's name.</param>
/// <param name="Mix">The split as it is now: its levels, pans and groups are those of the mix, which goes on after a take was recorded.</param>
/// <param name="Lines">The lines, in track order.</param>
/// <param name="Mends">What was mended, in words and in order.</param>
public sealed record HandoffMaterial(string Session, Split Mix, ImmutableArray<HandoffLine> Lines, ImmutableArray<string> Mends)
{
    /// <summary>What is on trial, in words, and so not made.</summary>
    public ImmutableArray<string> OnTrial { get; init; } = [];

    /// <summary>The takes that the lines are of, in their order.</summary>
    public ImmutableArray<HandoffTake> Takes { get; } = [.. Lines.Select(l => l.Take).DistinctBy(t => t.Number).OrderBy(t => t.Number)];

    /// <summary>A track as it stands in the mix: as it is now, or where it is no longer there, as it was.</summary>
    public Track? InMix(HandoffLine line) => Mix.Track(line.TrackId) ?? line.Then;
}

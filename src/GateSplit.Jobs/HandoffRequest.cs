using System.Collections.Immutable;
using GateSplit.Core.Handoff;

namespace GateSplit.Jobs;

/// <summary>What is to be handed off.</summary>
/// <param name="TakeId">The take; 0 for what counts of each line.</param>
/// <param name="Wish">What of it, and how.</param>
public sealed record HandoffRequest(long TakeId, HandoffWish Wish)
{
    /// <summary>Lines that are of another take: their tracks with the numbers of those takes.</summary>
    public ImmutableDictionary<string, int> Others { get; init; } = ImmutableDictionary<string, int>.Empty;
}

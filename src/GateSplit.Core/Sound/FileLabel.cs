using System.Collections.Immutable;

namespace GateSplit.Core.Sound;

/// <summary>What a file says of itself beside its samples.</summary>
/// <param name="Broadcast">What every broadcast WAVE file says.</param>
public sealed record FileLabel(BroadcastInfo Broadcast)
{
    /// <summary>What it belongs to: the session's name.</summary>
    public string Project { get; init; } = "";

    /// <summary>The track, by its whole name.</summary>
    public string Track { get; init; } = "";

    /// <summary>Which take: "2", or what stands for one.</summary>
    public string Take { get; init; } = "";

    /// <summary>Whatever else there is to say.</summary>
    public string Note { get; init; } = "";

    /// <summary>Places in it, in the order of time.</summary>
    public ImmutableArray<CuePoint> Cues { get; init; } = [];
}

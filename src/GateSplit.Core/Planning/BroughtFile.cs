using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Planning;

/// <summary>A file that somebody brings in.</summary>
/// <param name="Name">Its name where it came from.</param>
/// <param name="Format">The shape of its samples.</param>
/// <param name="Frames">Its length.</param>
/// <param name="ChannelNames">What its channels are called, by 1-based channel; empty if nobody said.</param>
public sealed record BroughtFile(string Name, AudioFormat Format, Frames Frames, ImmutableDictionary<int, string> ChannelNames)
{
    /// <summary>Sentences about damage that is read around.</summary>
    public ImmutableArray<string> Damage { get; init; } = [];
}

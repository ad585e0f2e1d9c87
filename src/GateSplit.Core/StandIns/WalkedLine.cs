using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>One element played alone through the split, measured where it leaves and where it arrives.</summary>
/// <param name="Element">The element.</param>
/// <param name="Pass">The pass it was played in.</param>
/// <param name="Source">RMS before its fader, both sides together.</param>
/// <param name="Ports">The ports at which anything stood.</param>
/// <param name="Tracks">The tracks on which it should arrive, or on which it did, in order.</param>
public sealed record WalkedLine(
    ElementRef Element, int Pass, Decibels Source, ImmutableArray<WalkedPort> Ports, ImmutableArray<WalkedTrack> Tracks)
{
    /// <summary>True if it arrives where the split says and nowhere else.</summary>
    public bool Agrees => Tracks.All(t => t.Agrees);
}

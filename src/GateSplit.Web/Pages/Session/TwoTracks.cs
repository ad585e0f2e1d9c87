using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Web.Pages.Session;

/// <summary>Two tracks laid over each other.</summary>
/// <param name="One">The one.</param>
/// <param name="Other">The other.</param>
public sealed record TwoTracks(TwoTracks.Track One, TwoTracks.Track Other)
{
    /// <summary>One of them.</summary>
    /// <param name="Name">What it is called.</param>
    /// <param name="Spectrum">Of its whole.</param>
    /// <param name="History">How loud it is along its time.</param>
    public sealed record Track(string Name, ImmutableArray<(double Hertz, Decibels Level)> Spectrum, LevelHistory History);

    /// <summary>Both.</summary>
    public ImmutableArray<Track> Both => [One, Other];
}

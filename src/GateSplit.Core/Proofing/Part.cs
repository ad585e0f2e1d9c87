using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>What a track ought to hold: an element with its notes.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Notes">When it is played, in seconds from the start of the song, in order.</param>
/// <param name="Held">True of sounds that rise slowly and are held; false of what is struck.</param>
public sealed record Part(string Name, ImmutableArray<double> Notes, bool Held)
{
    /// <summary>How much earlier or later than its note a sound of it may begin, in seconds.</summary>
    public (double Early, double Late) Tolerance => Held ? (0.010, 0.050) : (0.010, 0.010);
}

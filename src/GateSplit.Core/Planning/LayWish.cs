using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>How lines are to be laid.</summary>
/// <param name="Anew">True to lay everything again; false to keep every line there is and lay only what has none.</param>
/// <param name="HardPan">True to put two mono lines on one pair, panned hard apart, where that saves a pass.</param>
/// <param name="ByGroup">True to lay a group of the source as one line.</param>
public sealed record LayWish(bool Anew = false, bool HardPan = false, bool ByGroup = false)
{
    /// <summary>The only elements to lay; null for all that sound.</summary>
    public ImmutableHashSet<ElementRef>? Only { get; init; }
}

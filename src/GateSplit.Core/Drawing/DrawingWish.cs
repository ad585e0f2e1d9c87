using System.Collections.Immutable;
using GateSplit.Core.Views;

namespace GateSplit.Core.Drawing;

/// <summary>What of a split is drawn.</summary>
/// <param name="WithSilent">True to show the elements that do not sound in the song too.</param>
public sealed record DrawingWish(bool WithSilent = false)
{
    /// <summary>Groups that are drawn as one row, as "unit/group".</summary>
    public ImmutableHashSet<string> Folded { get; init; } = [];

    /// <summary>The only pass to draw; null for all.</summary>
    public int? Pass { get; init; }

    /// <summary>The only places to draw, with the lines they are on; null for all.</summary>
    public ImmutableHashSet<Place>? Only { get; init; }
}

using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>How lines are to be laid.</summary>
/// <param name="Anew">True to lay everything again; false to keep every line there is and lay only what has none.</param>
/// <param name="HardPan">True to put two mono lines on one pair, panned hard apart, where that saves a pass.</param>
/// <param name="ByGroup">True to lay a group of the source as one line.</param>
public sealed record LayWish(bool Anew = false, bool HardPan = true, bool ByGroup = false)
{
    /// <summary>The only elements to lay; null for all that sound.</summary>
    public ImmutableHashSet<ElementRef>? Only { get; init; }

    /// <summary>True to declare further ports where a source lets its user do so and that saves a pass.</summary>
    public bool Declare { get; init; } = true;

    /// <summary>True to set the faders of single lines to unity where a port hears them.</summary>
    public bool Unity { get; init; }

    /// <summary>True to give elements that share a voice lines of their own, in passes of their own.</summary>
    public bool SharersApart { get; init; }

    /// <summary>Elements to lay as one line; empty for none.</summary>
    public ImmutableHashSet<ElementRef> Merged { get; init; } = [];

    /// <summary>Stereo elements to lay as mono lines, on ports that sum their sides; empty for none.</summary>
    public ImmutableHashSet<ElementRef> AsMono { get; init; } = [];
}

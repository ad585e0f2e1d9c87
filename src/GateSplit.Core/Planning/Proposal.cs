using System.Collections.Immutable;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>A way to lay the lines of a split, to be looked at before it is accepted.</summary>
/// <param name="Lines">The new lines, in the order of their tracks.</param>
/// <param name="Reasons">Why it is laid so, in sentences.</param>
/// <param name="Edit">What it does; null if nothing would change.</param>
/// <param name="After">The split after it.</param>
public sealed record Proposal(ImmutableArray<LaidLine> Lines, ImmutableArray<string> Reasons, Edit? Edit, Split After)
{
    /// <summary>Where one pass does not hold all lines: how many are needed, how many there are, and by how many it is short.</summary>
    public ImmutableArray<string> Limits { get; init; } = [];

    /// <summary>How many passes it takes.</summary>
    public int Passes => Math.Max(1, Lines.Select(l => l.Pass).DefaultIfEmpty(1).Max());
}

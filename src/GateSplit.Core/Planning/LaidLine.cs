using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>A line of a proposal.</summary>
/// <param name="UnitId">The source.</param>
/// <param name="Elements">What it carries: one element, the sharers of a voice, or those of a group.</param>
/// <param name="Name">What its track is called.</param>
/// <param name="Width">Of its track.</param>
/// <param name="Port">The port it leaves by.</param>
/// <param name="Side">0 for the whole port or its left side, 1 for its right side.</param>
/// <param name="Pass">The pass it is recorded in, from 1.</param>
public sealed record LaidLine(
    UnitId UnitId, ImmutableArray<ElementRef> Elements, string Name, Width Width, ChartPort Port, int Side, int Pass)
{
    /// <summary>The first input it arrives on; null if nothing leads there.</summary>
    public InputRef? Input { get; init; }

    /// <summary>The group that leaves as one line; null for elements.</summary>
    public string? Group { get; init; }
}

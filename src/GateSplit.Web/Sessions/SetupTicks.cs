using System.Collections.Immutable;
using GateSplit.Core.Setup;

namespace GateSplit.Web.Sessions;

/// <summary>A setup sheet with what of it is done.</summary>
/// <param name="Sheet">The sheet.</param>
/// <param name="Ticked">What names the steps that are ticked.</param>
/// <param name="Address">Where ticks go to and come from.</param>
public sealed record SetupTicks(SetupSheet Sheet, IReadOnlySet<string> Ticked, string Address)
{
    /// <summary>What names the steps, in their order.</summary>
    public ImmutableArray<string> Keys { get; } = Sheet.Keys;

    /// <summary>How many steps are done.</summary>
    public int Done => Keys.Count(Ticked.Contains);
}

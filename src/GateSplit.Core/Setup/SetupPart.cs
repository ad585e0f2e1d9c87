using System.Collections.Immutable;

namespace GateSplit.Core.Setup;

/// <summary>Steps that belong together, at one place.</summary>
/// <param name="Title">Where, or for what: "Mudlark Nine", "Tracks", "Pass 2".</param>
/// <param name="Steps">What to do there, in order.</param>
public sealed record SetupPart(string Title, ImmutableArray<SetupStep> Steps)
{
    /// <summary>True if the order of its steps makes no difference.</summary>
    public bool AnyOrder { get; init; }
}

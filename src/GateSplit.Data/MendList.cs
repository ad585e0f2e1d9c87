using GateSplit.Core.Proofing;

namespace GateSplit.Data;

/// <summary>The mends of a take.</summary>
/// <param name="Mends">In their order.</param>
/// <param name="Undone">What was undone, the last first.</param>
/// <param name="Json">The mends as they are kept.</param>
public sealed record MendList(IReadOnlyList<Mend> Mends, IReadOnlyList<Mend> Undone, string Json)
{
    /// <summary>No mend as it is kept.</summary>
    public const string None = "[]";
}

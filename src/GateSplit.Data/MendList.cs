using GateSplit.Core.Proofing;

namespace GateSplit.Data;

/// <summary>The mends of a take.</summary>
/// <param name="Mends">In their order.</param>
/// <param name="Undone">What was undone, the last first.</param>
/// <param name="Json">The mends as they are kept.</param>
/// <param name="Trial">How many of them, the last ones, are on trial: heard and proved, but not handed off before somebody keeps them.</param>
public sealed record MendList(IReadOnlyList<Mend> Mends, IReadOnlyList<Mend> Undone, string Json, int Trial = 0)
{
    /// <summary>No mend as it is kept.</summary>
    public const string None = "[]";

    /// <summary>The mends without those on trial.</summary>
    public MendList Settled
    {
        get
        {
            IReadOnlyList<Mend> settled = [.. Mends.SkipLast(Trial)];
            return Trial == 0 ? this : new(settled, Undone, ProofJson.Write(settled));
        }
    }
}

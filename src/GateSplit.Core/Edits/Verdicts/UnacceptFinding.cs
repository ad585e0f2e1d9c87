using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Looks at an accepted finding again.</summary>
/// <param name="Key">The finding.</param>
public sealed record UnacceptFinding(string Key) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => "Look at a finding again";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split with { Accepted = [.. split.Accepted.Where(a => a.Key != Key)] };
}

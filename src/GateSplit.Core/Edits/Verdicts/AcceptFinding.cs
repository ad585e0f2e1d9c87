using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Accepts a finding as meant, with a word why.</summary>
/// <param name="Finding">The finding.</param>
public sealed record AcceptFinding(AcceptedFinding Finding) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => "Accept a finding as meant";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        var why = Finding.Why.Trim();
        return split with { Accepted = [.. split.Accepted.Where(a => a.Key != Finding.Key), Finding with { Why = why }] };
    }
}

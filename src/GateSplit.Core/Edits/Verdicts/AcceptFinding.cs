using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Accepts a finding as meant, with a word why.</summary>
/// <param name="Finding">The finding.</param>
public sealed record AcceptFinding(AcceptedFinding Finding) : Edit
{
    /// <summary>The longest reason.</summary>
    public const int MostLetters = 200;

    /// <inheritdoc/>
    public override string Name(Split split) => "Accept a finding as meant";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split)
    {
        var why = Finding.Why.Trim();
        return why.Length is 0 or > MostLetters
            ? new Refusal($"Say in 1 to {MostLetters} letters why it is meant.")
            : split with { Accepted = [.. split.Accepted.Where(a => a.Key != Finding.Key), Finding with { Why = why }] };
    }
}

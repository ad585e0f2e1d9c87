using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Changes how a pass is recorded.</summary>
/// <param name="Pass">The settings as they shall be.</param>
public sealed record SetPass(PassSettings Pass) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => "Change the pass";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split with { Pass = Pass };
}

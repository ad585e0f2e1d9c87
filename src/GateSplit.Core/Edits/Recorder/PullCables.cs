using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Pulls cables of a source.</summary>
/// <param name="UnitId">Which source.</param>
/// <param name="Input">The input whose cable is pulled; null for all cables of the source.</param>
/// <param name="Pass">The only pass for which it is pulled; null for all.</param>
public sealed record PullCables(UnitId UnitId, InputRef? Input = null, int? Pass = null) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => Input is null
        ? $"Pull all cables of {split.Unit(UnitId)?.Name}"
        : $"Pull the cable from {split.Bank(Input.BankId)?.Label} {Input.Channel}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        var left = split.Cables.RemoveAll(c => c.UnitId == UnitId && (Input is null || c.Input == Input) && (Pass is null || c.Pass == Pass));
        return left.Length == split.Cables.Length ? new Refusal("There is no such cable any more.") : split with { Cables = left };
    }
}

using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Several edits as one: all of them or none.</summary>
/// <param name="Title">What they do together.</param>
/// <param name="Edits">In order.</param>
public sealed record Several(string Title, ImmutableArray<Edit> Edits) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => Title;

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        foreach (var edit in Edits)
        {
            var result = edit.Change(split);
            if (!result.Ok)
            {
                return result;
            }

            split = result.Value;
        }

        return split;
    }
}

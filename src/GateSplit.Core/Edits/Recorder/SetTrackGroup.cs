using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Changes a group of tracks.</summary>
/// <param name="Group">The group as it shall be.</param>
public sealed record SetTrackGroup(TrackGroup Group) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Change the group {Group.Name}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.TrackGroup(Group.Id) is not { } before)
        {
            return new Refusal("This group is not in the split any more.");
        }

        return split with { TrackGroups = split.TrackGroups.Replace(before, Group) };
    }
}

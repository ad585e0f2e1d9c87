using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Takes a group of tracks away; its tracks stay.</summary>
/// <param name="GroupId">Which.</param>
public sealed record RemoveTrackGroup(TrackGroupId GroupId) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Remove the group {split.TrackGroup(GroupId)?.Name}".TrimEnd();

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split.TrackGroup(GroupId) is { } group
        ? split with
        {
            // What fed it feeds what it fed.
            TrackGroups = [.. split.TrackGroups.Remove(group).Select(g => g.ParentId == GroupId ? g with { ParentId = group.ParentId } : g)],
            Tracks = [.. split.Tracks.Select(t => t with { GroupId = t.GroupId == GroupId ? null : t.GroupId, LevelGroups = t.LevelGroups.Remove(GroupId) })],
        }
        : new Refusal("This group is not in the split any more.");
}

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
            TrackGroups = split.TrackGroups.Remove(group),
            Tracks = [.. split.Tracks.Select(t => t.GroupId == GroupId ? t with { GroupId = null } : t)],
        }
        : new Refusal("This group is not in the split any more.");
}

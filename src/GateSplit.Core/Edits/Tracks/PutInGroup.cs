using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Puts a track into a group, or with null takes it out.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="GroupId">The group; null for none.</param>
public sealed record PutInGroup(TrackId TrackId, TrackGroupId? GroupId) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => GroupId is null
        ? $"Take {track.Title} out of its group"
        : $"Put {track.Title} into {split.TrackGroup(GroupId)?.Name ?? "a group"}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) => GroupId is null || split.TrackGroup(GroupId) is not null
        ? track with { GroupId = GroupId }
        : new Refusal("This group is not in the split any more.");
}

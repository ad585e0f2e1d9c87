using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Puts a track into a group: out of any other that sums if this one does, beside all others if it only sets levels.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="GroupId">The group.</param>
public sealed record PutInGroup(TrackId TrackId, TrackGroupId GroupId) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Put {track.Title} into {split.TrackGroup(GroupId)?.Name ?? "a group"}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track)
    {
        if (split.TrackGroup(GroupId) is not { } group)
        {
            return new Refusal("This group is not in the split any more.");
        }

        var levels = split.LevelsOf(track).Select(g => g.Id).ToList();
        return group.Sums
            ? track with { GroupId = GroupId, LevelGroups = [.. levels] }
            : track with { GroupId = split.SumOf(track)?.Id, LevelGroups = levels.Contains(GroupId) ? [.. levels] : [.. levels, GroupId] };
    }
}

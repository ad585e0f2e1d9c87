using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Takes a track out of a group, or with null out of the one that sums it.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="GroupId">The group; null for whichever sums it.</param>
public sealed record TakeOutOfGroup(TrackId TrackId, TrackGroupId? GroupId) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => $"Take {track.Title} out of {split.TrackGroup(GroupId)?.Name ?? "its group"}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track)
    {
        var sum = split.SumOf(track)?.Id;
        return track with
        {
            GroupId = GroupId is null || GroupId == sum ? null : sum,
            LevelGroups = [.. split.LevelsOf(track).Select(g => g.Id).Where(id => id != GroupId)],
        };
    }
}

using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Says what a track is meant for, whatever it is called.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="MeantFor">Elements, groups or mixes of sources; empty to leave it open.</param>
public sealed record SetMeantFor(TrackId TrackId, ImmutableArray<Meant> MeantFor) : TrackEdit(TrackId)
{
    /// <inheritdoc/>
    protected override string Name(Split split, Track track) => MeantFor.IsEmpty
        ? $"Leave open what {track.Title} is meant for"
        : $"Mean {track.Title} for {Words.List([.. MeantFor.Select(split.NameOf)], most: 3)}";

    /// <inheritdoc/>
    protected override Result<Track> Change(Split split, Track track) => track with { MeantFor = MeantFor };
}

using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Takes a source out of the session, with its row of inputs.</summary>
/// <param name="UnitId">Which.</param>
/// <param name="WithTracks">True to remove the tracks that were made for it alone; false to let them stay, without an input.</param>
public sealed record RemoveUnit(UnitId UnitId, bool WithTracks = false) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) =>
        $"Remove {split.Unit(UnitId)?.Name ?? "a source"}{(WithTracks && Tracks(split, UnitId) is var tracks && tracks > 0 ? $" and its {Words.Count(tracks, "track")}" : "")}";

    /// <summary>How many tracks were made for a source alone.</summary>
    public static int Tracks(Split split, UnitId unitId) => split.Tracks.Count(t => IsOf(split, t, unitId));

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) => split.Unit(UnitId) is { } unit
        ? ((WithTracks ? split with { Tracks = split.Tracks.RemoveAll(t => IsOf(split, t, UnitId)) } : split).Without(split.BankOf(unit)) with { Units = split.Units.Remove(unit) }).Tidied()
        : new Refusal("This source is not in the split any more.");

    /// <summary>True of a track that is meant for it and nothing else, or, if nobody has said what for, that listens to its row.</summary>
    private static bool IsOf(Split split, Track track, UnitId unitId) => track.MeantFor.IsEmpty
        ? track.Input is { } input && split.Bank(input.BankId)?.UnitId == unitId
        : track.MeantFor.All(m => m.UnitId == unitId);
}

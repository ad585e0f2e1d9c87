using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>Tracks that are turned up and down together. Recording is not touched by it: tracks record what arrives.</summary>
/// <param name="Id">Short id, unique in the split.</param>
/// <param name="Name">Its name.</param>
/// <param name="Sums">True if its tracks are summed in it and leave by its output; false if it only sets levels.</param>
public sealed record TrackGroup(TrackGroupId Id, string Name, bool Sums)
{
    /// <summary>Level in dB.</summary>
    public Decibels LevelDb { get; init; }

    /// <summary>Where the sum goes; null for the recorder's main output, or for the group it feeds.</summary>
    public InputRef? Bus { get; init; }

    /// <summary>The group that its sum feeds; null for none.</summary>
    public TrackGroupId? ParentId { get; init; }

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(Split split, string place) =>
    [
        .. Core.Misfits.Unless(Names.FitId(Id.Value), $"{place}.id", "An id is made of small letters, digits and hyphens."),
        .. Core.Misfits.Unless(Names.Fit(Name), $"{place}.name", $"A group needs a name of at most {Names.Longest} letters."),
        .. Core.Misfits.Unless(ChartRules.Levels.Hold(LevelDb), $"{place}.levelDb", "A level goes from -120 to +12 dB."),
        .. Core.Misfits.Unless(
            Bus is null || (split.Fits(Bus, Width.Stereo) && split.Bank(Bus.BankId)!.Kind is BankKind.Buses or BankKind.Loopback or BankKind.StemBuses),
            $"{place}.bus",
            "A group can only be sent to a pair of buses."),
        .. Core.Misfits.Unless(
            ParentId is null || (Sums && Bus is null && split.TrackGroup(ParentId) is { Sums: true }),
            $"{place}.parentId",
            $"{Name} can feed a group that sums, if it sums itself and has no other output."),
        .. Core.Misfits.Unless(!split.Above(this).Contains(this), $"{place}.parentId", $"{Name} would feed itself."),
    ];
}

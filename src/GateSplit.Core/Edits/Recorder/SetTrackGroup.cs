using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Changes a group of tracks.</summary>
/// <param name="Group">The group as it shall be.</param>
public sealed record SetTrackGroup(TrackGroup Group) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Change the group {Group.Name}";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split)
    {
        if (split.TrackGroup(Group.Id) is not { } before)
        {
            return new Refusal("This group is not in the split any more.");
        }

        if (string.IsNullOrWhiteSpace(Group.Name) || Group.Name.Length > RenameTrack.Longest)
        {
            return new Refusal($"A group needs a name of at most {RenameTrack.Longest} letters.");
        }

        if (Group.LevelDb is not (>= -120 and <= 12))
        {
            return new Refusal("A level goes from -120 to +12 dB.");
        }

        if (Group.Bus is { } bus && (split.Bank(bus.BankId) is not { Kind: BankKind.Buses or BankKind.Loopback } bank || bank.Trouble(bus.Channel, Charts.Width.Stereo) is not null))
        {
            return new Refusal("A group can only be sent to a pair of buses.");
        }

        return split with { TrackGroups = split.TrackGroups.Replace(before, Group) };
    }
}

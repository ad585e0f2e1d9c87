using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Sets a group of a source: its port, fader and mute.</summary>
/// <param name="UnitId">The source.</param>
/// <param name="Group">The group as it is to be; a port of null, or that of the main mix, leaves it in the main mix.</param>
public sealed record SetGroup(UnitId UnitId, UnitGroup Group) : UnitEdit(UnitId)
{
    /// <inheritdoc/>
    protected override string Name(Unit unit)
    {
        var before = unit.Group(Group.Name);
        return Group.Port != before.Port
            ? Group.Port is { } port ? $"Send group {Group.Name} to port {port}" : $"Leave group {Group.Name} in the main mix"
            : Group.Muted != before.Muted ? $"{(Group.Muted ? "Mute" : "Unmute")} group {Group.Name}" : $"Set group {Group.Name}'s fader";
    }

    /// <inheritdoc/>
    protected override Result<Unit> Change(Unit unit)
    {
        if (unit.Chart.Group(Group.Name) is null)
        {
            return new Refusal($"{unit.Name} has no group {Group.Name}.");
        }

        var group = Group.Port == unit.Chart.MainPort.Number ? Group with { Port = null } : Group;
        return unit with { Groups = [.. unit.Groups.Where(g => g.Name != group.Name), group] };
    }
}

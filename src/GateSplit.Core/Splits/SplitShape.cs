using GateSplit.Core.Charts;
using GateSplit.Core.Edits;

namespace GateSplit.Core.Splits;

/// <summary>Whether a split that came from outside holds together, so that the rest of the program can rely on it.</summary>
public static class SplitShape
{
    /// <summary>A sentence about the first thing that does not fit; null for a sound split.</summary>
    public static string? Trouble(Split split)
    {
        if (split.Units.IsDefault || split.Banks.IsDefault || split.Tracks.IsDefault || split.Accepted.IsDefault || split.Cables.IsDefault || split.Ticked.IsDefault || split.Rides.IsDefault || split.TrackGroups.IsDefault)
        {
            return "The split in this file lacks its units, banks or tracks.";
        }

        foreach (var unit in split.Units)
        {
            if (TroubleOf(split, unit) is { } trouble)
            {
                return trouble;
            }
        }

        if (TroubleOfBanks(split) is { } banks)
        {
            return banks;
        }

        if (split.Tracks.FirstOrDefault(t => t.Input is { } i && split.Bank(i.BankId) is null) is { } lost)
        {
            return $"The track {lost.Title} listens to a row of inputs that is not in this file.";
        }

        if (split.Tracks.Any(t => t.Id.Length < 2 || t.Id[0] != 't' || !int.TryParse(t.Id.AsSpan(1), out _))
            || split.Tracks.Select(t => t.Id).Distinct().Count() != split.Tracks.Length)
        {
            return "The tracks in this file need ids of their own: t1, t2 and so on.";
        }

        if (split.Tracks.Any(t => t.Pass is < 1 or > SetTrackPass.Most))
        {
            return $"A track in this file belongs to a pass that is not 1 to {SetTrackPass.Most}.";
        }

        if (split.Interface is null || !new SetSimulatedInterface(split.Interface).Apply(split).Ok
            || split.Units.Any(u => u.Simulated is null || !new SetSimulatedUnit(u.Id, u.Simulated).Apply(split).Ok))
        {
            return "The simulated gear in this file has inputs, settings or amounts that there are not.";
        }

        // The pass may have become shorter since: what lies behind its end does no harm.
        var longest = split with { Pass = split.Pass with { LengthBars = SetPass.MostBars } };
        if (split.Rides.FirstOrDefault(r => !new SetRide(r).Apply(longest).Ok) is { } ride)
        {
            return $"The ride of {ride.Element} in this file moves something that is not there, or further than it goes.";
        }

        var bare = longest with { Steps = [] };
        if (split.Steps.IsDefault || split.Steps.Length > PerformedStep.Most || split.Steps.Any(s => !new AddStep(s).Apply(bare).Ok))
        {
            return "A roll, repeat or variation in this file is of something that is not there, or goes too far.";
        }

        var pass = new SetPass(split.Pass).Apply(split);
        return pass.Ok ? null : pass.Trouble;
    }

    private static string? TroubleOfBanks(Split split)
    {
        if (split.Banks.Any(b => b.Off.IsDefault || b.Count is < 1 or > Bank.Most) || split.Banks.Select(b => b.Id).Distinct().Count() != split.Banks.Length)
        {
            return $"The rows of inputs in this file need ids of their own and 1 to {Bank.Most} inputs each.";
        }

        if (split.Cables.FirstOrDefault(c => !new PlugCables(c.UnitId, c.Channel, 1, c.Input, c.Pass).Apply(split).Ok) is { } cable)
        {
            return $"A cable in this file leads from {cable.UnitId} {cable.Channel} to {cable.Input.BankId} {cable.Input.Channel}, and one of them is not there.";
        }

        if (split.TrackGroups.Select(g => g.Id).Distinct().Count() != split.TrackGroups.Length
            || split.TrackGroups.Any(g => !new SetTrackGroup(g).Apply(split).Ok))
        {
            return "The groups of tracks in this file need ids and names of their own, levels of -120 to +12 dB and outputs that are there.";
        }

        return split.Tracks.Any(t => t.GroupId is not null && split.TrackGroup(t.GroupId) is null)
            ? "A track in this file is in a group that is not in it."
            : null;
    }

    private static string? TroubleOf(Split split, Unit unit)
    {
        var chart = unit.Chart;
        if (ChartShape.Trouble(chart) is { } trouble)
        {
            return $"{unit.Name}, {trouble}";
        }

        if (unit.Elements.IsDefault || unit.Voices.IsDefault || unit.Groups.IsDefault || unit.UnloadedPorts.IsDefault)
        {
            return $"The settings of {unit.Name} are not whole.";
        }

        if (chart.Modes.All(m => m.Id != unit.ModeId))
        {
            return $"{unit.Name} is in a mode that its chart does not have.";
        }

        if (split.Banks.All(b => b.UnitId != unit.Id))
        {
            return $"There is no row of inputs for {unit.Name} in this file.";
        }

        if (chart.Elements.Any(e => unit.Elements.All(u => u.ElementId != e.Id)) || chart.Voices.Any(v => unit.Voices.All(u => u.VoiceId != v.Id)))
        {
            return $"The settings of {unit.Name} do not name every element and voice of its chart.";
        }

        return null;
    }
}

using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>Whether a split that came from outside holds together, so that the rest of the program can rely on it.</summary>
public static class SplitShape
{
    /// <summary>A sentence about the first thing that does not fit; null for a sound split.</summary>
    public static string? Trouble(Split split)
    {
        if (split.Units.IsDefault || split.Banks.IsDefault || split.Tracks.IsDefault || split.Accepted.IsDefault)
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

        var pass = new SetPass(split.Pass).Apply(split);
        return pass.Ok ? null : pass.Trouble;
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

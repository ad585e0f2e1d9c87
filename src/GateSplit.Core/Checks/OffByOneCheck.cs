using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>All lines shifted by the same step against their ports: mostly the main mix was counted as the first element.</summary>
public sealed class OffByOneCheck : ICheck
{
    private const int FewestLines = 3;

    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units.Where(u => view.Split.BankOf(u).Connected))
        {
            var bank = view.Split.BankOf(unit);

            var byName = view.SoundingElements.Where(e => e.Unit.Id == unit.Id)
                .DistinctBy(e => e.Chart.Name, StringComparer.OrdinalIgnoreCase)
                .ToDictionary(e => e.Chart.Name, StringComparer.OrdinalIgnoreCase);

            // Tracks that bear the name of an element, against the place where that element really arrives.
            var lines = (
                from track in view.Split.Tracks
                where track.Input?.BankId == bank.Id
                let element = byName.GetValueOrDefault(track.Name.Trim())
                where element.Chart is not null && unit.AssignedPort(element.Set) is not null
                let port = unit.PortOf(element.Set)!
                select (Track: track, Port: port, Step: track.Input!.Channel - port.FirstChannel)).ToList();
            var step = lines.Select(l => l.Step).FirstOrDefault();
            if (lines.Count < FewestLines || step == 0 || lines.Any(l => l.Step != step))
            {
                continue;
            }

            var edits = lines.Select(l => (Edit)new SetTrackInput(l.Track.Id, l.Track.Input! with { Channel = l.Port.FirstChannel }));
            yield return Finding.Warning(
                    Place.Of(unit),
                    $"All {Words.Count(lines.Count, "line")} of {unit.Name} sit {Words.Count(Math.Abs(step), "input")} too {(step > 0 ? "high" : "low")}: {lines[0].Track.Name} listens to {view.Split.InputName(lines[0].Track)} but arrives on {bank.InputName(lines[0].Port.FirstChannel, lines[0].Track.Width)}. The main mix was perhaps counted {(step > 0 ? "twice" : "as the first of them")}.")
                .WithFix($"Move all {Words.Count(lines.Count, "line")} {(step > 0 ? "down" : "up")}", new Several($"Move the lines of {unit.Name} to their inputs", [.. edits]));
        }
    }
}

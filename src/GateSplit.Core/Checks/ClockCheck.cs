using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>Clock and start/stop that do not fit what a source can do.</summary>
public sealed class ClockCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var leader = view.Split.Units.FirstOrDefault(u => u.Clock == ClockMode.Leads && u.Chart.Clock.Leads);
        foreach (var unit in view.Split.Units.Where(u => u.Chart.Clock.Any))
        {
            if (unit.Clock == ClockMode.Leads && !unit.Chart.Clock.Leads)
            {
                yield return Finding.Warning(Place.Of(unit), $"{unit.Name} cannot lead with a clock of its own: the recorder would wait for it. Let it follow.")
                    .WithFix($"Let {unit.Name} follow", new SetClock(unit.Id, ClockMode.Follows));
            }
            else if (unit.Clock == ClockMode.Leads && leader is not null && leader.Id != unit.Id)
            {
                yield return Finding.Warning(Place.Of(unit), $"{leader.Name} and {unit.Name} both lead: the recorder can follow only one of them.")
                    .WithFix($"Let {unit.Name} follow", new SetClock(unit.Id, ClockMode.Follows));
            }
            else if (unit.Clock == ClockMode.Follows && !unit.Chart.Clock.Follows)
            {
                yield return Finding.Note(Place.Of(unit), $"{unit.Name} cannot follow a clock: start it by hand and move its tracks together afterwards.")
                    .WithFix($"Let {unit.Name} run free", new SetClock(unit.Id, ClockMode.Free));
            }
        }
    }
}

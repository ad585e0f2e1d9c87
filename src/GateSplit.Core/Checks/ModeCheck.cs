using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>In the wrong mode a source's separate ports carry nothing.</summary>
public sealed class ModeCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var unit in view.Split.Units)
        {
            var closed = view.SoundingElements
                .Where(e => e.Unit == unit && !unit.NeedsRestart && unit.AssignedPort(e.Set) is { } port && !unit.Exposes(port))
                .Select(e => e.Chart.Name)
                .ToList();
            if (closed.Count == 0)
            {
                continue;
            }

            var sentence = $"{unit.Name} is set to {unit.Mode.Name}, so nothing leaves by the ports of {Words.List(closed)}.";
            var better = unit.Chart.Modes.MaxBy(m => m.Ports.Length)!;
            yield return better.Id == unit.ModeId
                ? Finding.Warning(Place.Of(unit), sentence + " Give them other ports.").Naming(closed)
                : Finding.Warning(Place.Of(unit), sentence + $" Set it to {better.Name}.")
                    .Naming(closed)
                    .WithFix($"Set {unit.Name} to {better.Name}", new SetMode(unit.Id, better.Id));
        }
    }
}

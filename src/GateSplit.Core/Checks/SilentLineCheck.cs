using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>An element that plays in the song but comes out of no port at all.</summary>
public sealed class SilentLineCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var (element, unit, chart, set) in view.SoundingElements)
        {
            if (view.Signal.PortsOf(element).Any() || chart.Kind == ElementKind.Return)
            {
                continue;
            }

            if (set.Muted)
            {
                yield return Finding.Warning(Place.Of(element), $"{chart.Name} plays in this song but is muted on {unit.Name}: it will not be recorded.")
                    .WithFix($"Let {chart.Name} sound", new SetMuted(element, false));
            }
            else if (chart.Kind != ElementKind.NoteOnly && unit.AssignedPort(set) is null)
            {
                yield return Finding.Warning(Place.Of(element), $"{chart.Name} has no port and was taken out of the main mix: it is not heard anywhere.")
                    .WithFix($"Put {chart.Name} into the main mix", new SetInMain(element, true));
            }
        }
    }
}

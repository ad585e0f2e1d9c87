using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A part that only sends notes has nothing to say on a port.</summary>
public sealed class NoteOnlyCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from e in view.Elements
        where e.Chart.Kind == ElementKind.NoteOnly && (e.Set.Port is not null || e.Set.InMain)
        select Finding.Note(
                Place.Of(e.Ref),
                $"{e.Chart.Name} of {e.Unit.Name} only sends notes and makes no sound: it needs no port.")
            .WithFix($"Take {e.Chart.Name} off its port", new Several(
                $"Take {e.Chart.Name} off its port",
                [new AssignPort(e.Ref, null), new SetInMain(e.Ref, false)]));
}

using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A stereo element whose balance stands hard over leaves one side of its file silent.</summary>
public sealed class SilentSideCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from e in view.SoundingElements
        where e.Chart.Width == Width.Stereo
        from feed in view.Signal.PortsOf(e.Ref)
        let port = e.Unit.Chart.Port(feed.Port)!
        where port is { Width: Width.Stereo, IsMain: false }
        let sounds = SplitView.SidesOf(feed)
        where sounds is PortSides.Left or PortSides.Right
        let filled = view.SoundingAt(e.Unit.Id, port.Number).Aggregate(PortSides.None, (sides, f) => sides | SplitView.SidesOf(f))
        where filled != PortSides.Both && view.SidesTaken(e.Unit.Id, port.Number) == PortSides.Both
        let words = sounds == PortSides.Left ? (Hard: "left", Silent: "right") : (Hard: "right", Silent: "left")
        select Finding.Warning(
                Place.Of(e.Ref),
                $"{e.Chart.Name}'s balance stands hard {words.Hard}: the {words.Silent} side of what is recorded of it will be silent.")
            .WithFix($"Put {e.Chart.Name}'s balance into the centre", new SetPan(e.Ref, Pan.Centre));
}

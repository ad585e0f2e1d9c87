using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A port given to a group and another to an element in it: one of the two was perhaps set on the wrong page.</summary>
public sealed class GroupAndElementCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view) =>
        from e in view.SoundingElements
        let @group = e.Unit.Chart.Group(e.Chart.Group)
        where @group is not null && e.Set.Port is not null
        let groupPort = e.Unit.Group(@group.Name).Port
        where groupPort is not null
        select Finding.Note(
                Place.Of(e.Ref),
                $"{e.Chart.Name} has port {e.Set.Port} of its own, while {@group.Name} leaves by port {groupPort}: it is not in the group's file.")
            .WithFix($"Let {e.Chart.Name} follow {@group.Name}", Follow(view, e.Ref, e.Chart.Name, @group.Name));

    /// <summary>The tracks that carried nothing but the element would print empty files.</summary>
    private static Several Follow(SplitView view, ElementRef element, string name, string group) => new(
        $"Let {name} follow {group}",
        [
            new SetFollowsGroup(element, true),
            .. view.ArmedTracks.Where(t => view.SoundingIn(t) is [var only] && only == element).Select(t => (Edit)new SetArmed(t.Id, false)),
        ]);
}

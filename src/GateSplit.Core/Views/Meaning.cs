using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Views;

/// <summary>What a track should hold.</summary>
/// <param name="Elements">The elements that are there; those of a group are the ones that leave with it.</param>
/// <param name="Mixes">The sources whose main mix it should hold.</param>
/// <param name="ByName">True if nobody has said so and it was read from the track's name.</param>
public sealed record Meaning(ImmutableArray<ElementRef> Elements, ImmutableArray<UnitId> Mixes, bool ByName)
{
    /// <summary>Nobody knows.</summary>
    public static Meaning Open { get; } = new([], [], false);

    /// <summary>True if it should hold what is fed beside the usual way, and nothing else.</summary>
    public bool Straight { get; private init; }

    /// <summary>True if nobody knows, or if nothing of it is there any more.</summary>
    public bool IsOpen => Elements.IsEmpty && Mixes.IsEmpty;

    /// <summary>What a track of a split should hold.</summary>
    /// <param name="split">The split.</param>
    /// <param name="track">One of its tracks.</param>
    /// <returns>What was said; or, where nothing was, what the name tells by itself.</returns>
    public static Meaning Of(Split split, Track track)
    {
        if (track.MeantFor.IsEmpty)
        {
            return ShortNames.ElementOf(split, track) is { } named ? new([named], [], true) : Open;
        }

        return new(
            [.. track.MeantFor.SelectMany(m => ElementsOf(split, m)).Distinct()],
            [.. track.MeantFor.Where(m => m.IsMix && split.Unit(m.UnitId) is not null).Select(m => m.UnitId)],
            false)
        {
            Straight = track.MeantFor.All(m => m.Straight),
        };
    }

    private static IEnumerable<ElementRef> ElementsOf(Split split, Meant meant)
    {
        if (split.Unit(meant.UnitId) is not { } unit)
        {
            return [];
        }

        return meant.Group is { } group
            ? unit.Elements.Where(e => unit.GroupsOf(e).Any(g => g.Name == group)).Select(e => new ElementRef(unit.Id, e.ElementId))
            : meant.Element is { } element && split.HasElement(element) ? [element] : [];
    }
}

using System.Text.Json.Serialization;
using GateSplit.Core.Charts;

namespace GateSplit.Core.Splits;

/// <summary>
/// Something that a track is meant for: an element, a group of a source that leaves as one, or, where neither is named, a source's main mix.
/// What is meant may be there no longer: a source was removed, or its chart has changed.
/// </summary>
/// <param name="UnitId">The source.</param>
public sealed record Meant(UnitId UnitId)
{
    private const string Groups = "group";
    private const string Mixes = "mix";
    private const string Straights = "straight";
    private const string StraightGroups = "straight-group";

    /// <summary>The most things that one track can be meant for.</summary>
    public const int Most = 64;

    /// <summary>The element; null for a group or the mix.</summary>
    public ElementId? ElementId { get; init; }

    /// <summary>The group; null for an element or the mix.</summary>
    public string? Group { get; init; }

    /// <summary>True for its straight send, the way beside the usual one; never of the mix.</summary>
    public bool Straight { get; init; }

    /// <summary>The element with its source; null for a group or the mix.</summary>
    [JsonIgnore]
    public ElementRef? Element => ElementId is { } id ? new ElementRef(UnitId, id) : null;

    /// <summary>True of a source's main mix.</summary>
    [JsonIgnore]
    public bool IsMix => ElementId is null && Group is null;

    /// <summary>For an element.</summary>
    public static Meant For(ElementRef element) => new(element.UnitId) { ElementId = element.ElementId };

    /// <summary>For a group of a source.</summary>
    public static Meant ForGroup(UnitId unit, string group) => new(unit) { Group = group };

    /// <summary>For a source's main mix.</summary>
    public static Meant ForMix(UnitId unit) => new(unit);

    /// <summary>Reads what <see cref="ToString"/> writes; null for anything else.</summary>
    public static Meant? Read(string? text) => text?.Split('/', 3) switch
    {
        [{ Length: > 0 } unit, { Length: > 0 } element] => For(new ElementRef(new UnitId(unit), new ElementId(element))),
        [{ Length: > 0 } unit, Groups, { Length: > 0 } group] => ForGroup(new UnitId(unit), group),
        [{ Length: > 0 } unit, Straights, { Length: > 0 } element] => For(new ElementRef(new UnitId(unit), new ElementId(element))) with { Straight = true },
        [{ Length: > 0 } unit, StraightGroups, { Length: > 0 } group] => ForGroup(new UnitId(unit), group) with { Straight = true },
        [{ Length: > 0 } unit, Mixes, ""] => ForMix(new UnitId(unit)),
        _ => null,
    };

    /// <inheritdoc/>
    public override string ToString() => (ElementId, Group) switch
    {
        ({ } id, _) => Straight ? $"{UnitId}/{Straights}/{id}" : $"{UnitId}/{id}",
        (_, { } group) => $"{UnitId}/{(Straight ? StraightGroups : Groups)}/{group}",
        _ => $"{UnitId}/{Mixes}/",
    };

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Core.Misfits.Unless(
        Names.FitId(UnitId.Value) && (ElementId is not { } id || Names.FitId(id.Value)) && (Group is null || Names.Fit(Group)) && (ElementId is null || Group is null) && !(IsMix && Straight),
        place,
        "A track is meant for an element, a group or a mix of a source, or for the straight send of an element or a group.");
}

using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using Microsoft.AspNetCore.Mvc.Rendering;

namespace GateSplit.Web.Forms;

/// <summary>What a track can be meant for, as options of a control.</summary>
public static class MeantOptions
{
    /// <summary>Parts the things that one track is meant for: no name has it in it.</summary>
    private const char Between = '\t';

    /// <summary>Everything a track can be meant for, source by source, what it is meant for chosen.</summary>
    public static IReadOnlyList<SelectListItem> All(SplitView view, Track track)
    {
        var chosen = Write(track.MeantFor);
        var options = new List<SelectListItem> { new(Unsaid(view, track), "", chosen.Length == 0) };
        foreach (var unit in view.Split.Units)
        {
            var group = new SelectListGroup { Name = unit.Name };
            options.AddRange(unit.Chart.Elements.Select(e => Meant.For(new ElementRef(unit.Id, e.Id)))
                .Concat(unit.Chart.Groups.Select(g => Meant.ForGroup(unit.Id, g.Name)))
                .Append(Meant.ForMix(unit.Id))
                .Concat(StraightsOf(unit))
                .Select(m => new SelectListItem(view.Split.NameOf(m), m.ToString(), m.ToString() == chosen) { Group = group }));
        }

        if (options.TrueForAll(o => !o.Selected))
        {
            options.Insert(1, new(Of(view.Split, track), chosen, true));
        }

        return options;
    }

    /// <summary>What a track is meant for, in words; empty if nobody has said so.</summary>
    public static string Of(Split split, Track track) => track.MeantFor.IsEmpty ? "" : Words.List([.. track.MeantFor.Select(split.NameOf)], most: 3);

    /// <summary>As the value of a field.</summary>
    public static string Write(ImmutableArray<Meant> meant) => string.Join(Between, meant);

    /// <summary>Reads the values of a field; null if one of them makes no sense.</summary>
    public static ImmutableArray<Meant>? Read(IEnumerable<string?> values)
    {
        var meant = values.OfType<string>().SelectMany(v => v.Split(Between, StringSplitOptions.RemoveEmptyEntries)).Select(Meant.Read).ToList();
        return meant.Contains(null) ? null : [.. meant.OfType<Meant>().Distinct()];
    }

    private static IEnumerable<Meant> StraightsOf(Unit unit) =>
    [
        .. unit.Elements.Where(e => e.Straight is not null).Select(e => Meant.For(new ElementRef(unit.Id, e.ElementId)) with { Straight = true }),
        .. unit.Groups.Where(g => g.Straight is not null).Select(g => Meant.ForGroup(unit.Id, g.Name) with { Straight = true }),
    ];

    private static string Unsaid(SplitView view, Track track) => track.MeantFor.IsEmpty && view.MeaningOf(track) is { IsOpen: false } named
        ? $"as its name says: {Words.List([.. named.Elements.Select(view.Split.NameOf)])}"
        : "not said";
}

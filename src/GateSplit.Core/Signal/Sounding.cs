using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>Which elements have anything to say in a song.</summary>
public static class Sounding
{
    /// <summary>
    /// The elements whose own voices have notes, and the returns that such an element feeds. If the song plays nothing
    /// of any source, all elements count, since nobody can tell.
    /// </summary>
    public static ImmutableHashSet<ElementRef> Elements(Split split, Song song)
    {
        var sounding = ImmutableHashSet.CreateBuilder<ElementRef>();
        foreach (var unit in split.Units)
        {
            var voices = Voices(unit.Chart, song);
            foreach (var element in unit.Chart.Elements.Where(e => e.Hears.Any(h => !h.Bleed && voices.Contains(h.VoiceId))))
            {
                sounding.Add(new ElementRef(unit.Id, element.Id));
            }

            if (unit.Chart.Elements.Any(e => sounding.Contains(new ElementRef(unit.Id, e.Id)) && !SplitSignal.SendGain(unit, e).IsZero))
            {
                sounding.UnionWith(unit.Chart.Elements
                    .Where(e => e.Kind == ElementKind.Return)
                    .Select(e => new ElementRef(unit.Id, e.Id)));
            }
        }

        return sounding.Count > 0
            ? sounding.ToImmutable()
            : [.. split.Units.SelectMany(u => u.Elements.Select(e => new ElementRef(u.Id, e.ElementId)))];
    }

    /// <summary>The voices of a chart that have notes in a song.</summary>
    public static ImmutableHashSet<string> Voices(Chart chart, Song song) =>
        [.. chart.Voices.Where(v => song.Notes.Any(v.Plays)).Select(v => v.Id)];
}

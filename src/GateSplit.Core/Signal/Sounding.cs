using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Signal;

/// <summary>Which elements have anything to say in a song.</summary>
public static class Sounding
{
    /// <summary>
    /// The elements whose own voices have notes, and the returns that such an element feeds; what a person said of an
    /// element goes before that.
    /// </summary>
    public static ImmutableHashSet<ElementRef> Elements(Split split, Song song)
    {
        var played = split.Units.ToDictionary(u => u.Id, u => Voices(u, song));
        var sounding = ImmutableHashSet.CreateBuilder<ElementRef>();
        foreach (var unit in split.Units)
        {
            var set = unit.Elements.ToDictionary(e => e.ElementId);

            // Of a source whose chart names no voices nobody can tell, so all of it counts.
            var tells = unit.Chart.Elements.Any(e => !e.Hears.IsEmpty);
            bool Sounds(ChartElement e, bool byNotes) => set[e.Id].Sounds ?? (byNotes || !tells);

            var voices = played[unit.Id];
            foreach (var element in unit.Chart.Elements.Where(e => e.Kind != ElementKind.Return && Sounds(e, e.Hears.Any(h => !h.Bleed && voices.Contains(h.VoiceId)))))
            {
                sounding.Add(new ElementRef(unit.Id, element.Id));
            }

            var fed = unit.Chart.Elements.Any(e => sounding.Contains(new ElementRef(unit.Id, e.Id)) && !SplitSignal.SendGain(unit, e).IsZero);
            sounding.UnionWith(unit.Chart.Elements
                .Where(e => e.Kind == ElementKind.Return && Sounds(e, fed))
                .Select(e => new ElementRef(unit.Id, e.Id)));
        }

        return sounding.ToImmutable();
    }

    /// <summary>The voices of a source that have notes in a song.</summary>
    public static ImmutableHashSet<VoiceId> Voices(Unit unit, Song song) =>
        [.. unit.Chart.Voices.Where(v => song.Strokes.Keys.Any(s => unit.Plays(v, s.Channel, s.Key))).Select(v => v.Id)];
}

using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>A song that plays nothing of a source, as when it stands on another MIDI channel or other keys: every file of it would be silent.</summary>
public sealed class UnplayedCheck : ICheck
{
    private const int Octave = 12;

    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        if (view.Song is not { } song)
        {
            yield break;
        }

        foreach (var unit in view.Split.Units.Where(u => !u.Chart.Voices.IsEmpty && u.Elements.All(e => e.Sounds is null) && Sounding.Voices(u, song).IsEmpty))
        {
            var hears = NoteRanges.Of(unit.Chart);
            var finding = Finding.Warning(
                Place.Of(unit),
                song.Notes.IsEmpty
                    ? $"The song has no notes, so it plays nothing of {unit.Name}: its files would be silent. Choose a song with notes on {hears}, or say that it is played by hand."
                    : $"The song plays nothing of {unit.Name}, so its files would be silent: the song has notes on {NoteRanges.Of(song)}, and {unit.Name} listens to {hears}{Routed(unit, song)}.");
            var byHand = new Several($"{unit.Name} is played by hand", [.. unit.Elements.Where(e => Counts(unit, e)).Select(e => new SetSounds(new ElementRef(unit.Id, e.ElementId), true))]);
            yield return Route(view, unit, song) is { } route
                ? finding.WithFix(route.Name(view.Split), route)
                : finding.WithFix($"{unit.Name} is played by hand: count all of it as sounding", byHand);
        }
    }

    /// <summary>Where somebody has sent the channels of the song that it does not hear as they stand.</summary>
    private static string Routed(Unit unit, Song song)
    {
        var sent = unit.NoteRoutes.Where(r => song.Strokes.Keys.Any(s => s.Channel == r.From))
            .Select(r => r.To == NoteRoute.Nowhere ? $"channel {r.From} is kept from it" : $"channel {r.From} plays it on channel {r.To}")
            .ToList();
        return sent.Count == 0 ? "" : $", but {Words.List(sent)}";
    }

    private static bool Counts(Unit unit, UnitElement element) => unit.Chart.Element(element.ElementId)!.Kind is not (ElementKind.NoteOnly or ElementKind.Return);

    /// <summary>
    /// A channel that plays it as it stands, where it was sent elsewhere; or else the channel of the song that no other source hears and that
    /// would play the most of it, with the fewest keys moved.
    /// </summary>
    private static RouteNotes? Route(SplitView view, Unit unit, Song song) => (
        from route in unit.NoteRoutes
        where route.To != NoteRoute.Nowhere && song.Strokes.Keys.Any(s => s.Channel == route.From && unit.Chart.Voices.Any(v => v.Plays(s.Channel, s.Key)))
        select new RouteNotes(unit.Id, route.From, null, 0)).FirstOrDefault() ?? (
        from strokes in song.Strokes.GroupBy(s => s.Key.Channel)
        where !unit.NoteRoutes.Any(r => r.From == strokes.Key && r.To == NoteRoute.Nowhere)
        where view.Split.Units.Where(u => u.Id != unit.Id).All(u => strokes.All(s => u.Chart.Voices.All(v => !u.Plays(v, s.Key.Channel, s.Key.Key))))
        from channel in unit.Chart.Voices.Select(v => v.Channel).Distinct()
        from octaves in Enumerable.Range(-4, 9)
        let shift = octaves * Octave
        let played = strokes.Where(s => unit.Chart.Voices.Any(v => v.Plays(channel, s.Key.Key + shift))).Sum(s => s.Value)
        where played > 0
        orderby played descending, Math.Abs(shift), channel, strokes.Key
        select new RouteNotes(unit.Id, strokes.Key, channel, shift)).FirstOrDefault();
}

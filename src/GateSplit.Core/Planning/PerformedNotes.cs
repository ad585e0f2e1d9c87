using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>The notes of a song as they are performed: with rolls, repeats and variations, one after the other in the order in which they were made.</summary>
public static class PerformedNotes
{
    private const int Velocity = 96;
    private const int MiddleKey = 60;

    /// <summary>The notes a voice plays as it hears them, in order of start.</summary>
    /// <param name="split">The split with its steps.</param>
    /// <param name="unit">The source.</param>
    /// <param name="voice">One of its voices.</param>
    /// <param name="song">The song.</param>
    public static ImmutableArray<Note> Of(Split split, Unit unit, ChartVoice voice, Song song)
    {
        var notes = song.Notes.Where(n => unit.Plays(voice, n.Channel, n.Key)).Select(n => AsHeard(unit, n)).ToList();
        foreach (var step in StepsOn(split, unit, voice))
        {
            var (from, to) = (TickOf(song, step.FromBar), TickOf(song, step.ToBar));
            var played = (step.Kind switch
            {
                StepKind.Roll => Roll(notes, voice, from, to, new(song.File.TimeBase.TicksPerQuarter / step.Number)),
                StepKind.Repeat => Repeat(notes, from, to, new(BarTicks(song, (long)step.FromBar - 1).Count / step.Number)),
                _ => Variation(notes, from, to, step, song),
            }).ToList();
            notes = [.. notes.Where(n => n.StartTick < from).Select(n => n with { EndTick = n.EndTick > from ? from : n.EndTick }), .. played, .. notes.Where(n => n.StartTick >= to)];
        }

        return [.. notes.OrderBy(n => n.StartTick).ThenBy(n => n.Key)];
    }

    private static Note AsHeard(Unit unit, Note note) => unit.AsHeard(note.Channel, note.Key) is var (channel, key) ? note with { Channel = channel, Key = key } : note;

    /// <summary>True if any step changes what a voice plays.</summary>
    public static bool Changes(Split split, Unit unit, ChartVoice voice) => StepsOn(split, unit, voice).Any();

    private static IEnumerable<PerformedStep> StepsOn(Split split, Unit unit, ChartVoice voice) => split.Steps.Where(s =>
        s.Element.UnitId == unit.Id && unit.Chart.Element(s.Element.ElementId)!.Hears.Any(h => !h.Bleed && h.VoiceId == voice.Id));

    /// <summary>Strokes as loud and on the key of the note before.</summary>
    private static IEnumerable<Note> Roll(List<Note> notes, ChartVoice voice, Ticks from, Ticks to, Ticks every)
    {
        var like = notes.Where(n => n.StartTick <= from).Select(n => (Note?)n).LastOrDefault()
            ?? new Note(voice.Channel, voice.Keys.IsEmpty ? MiddleKey : voice.Keys[0], Velocity, 0, 0);
        for (var tick = from; tick < to; tick += Ticks.Max(1, every))
        {
            yield return like with { StartTick = tick, EndTick = tick + Ticks.Max(1, new(every.Count / 2)) };
        }
    }

    private static IEnumerable<Note> Repeat(List<Note> notes, Ticks from, Ticks to, Ticks length)
    {
        var stretch = notes.Where(n => n.StartTick >= from && n.StartTick < from + length).ToList();
        for (Ticks shift = 0; from + shift < to; shift += Ticks.Max(1, length))
        {
            foreach (var note in stretch.Where(n => n.StartTick + shift < to))
            {
                yield return note with { StartTick = note.StartTick + shift, EndTick = Ticks.Min(note.EndTick, from + length) + shift };
            }
        }
    }

    private static IEnumerable<Note> Variation(List<Note> notes, Ticks from, Ticks to, PerformedStep step, Song song)
    {
        var source = song.Metres.BarStart(step.Number - 1);
        var bar = notes.Where(n => n.StartTick >= source && n.StartTick < source + BarTicks(song, step.Number - 1)).ToList();
        for (var at = (long)step.FromBar - 1; song.Metres.BarStart(at) < to; at++)
        {
            var shift = song.Metres.BarStart(at) - source;
            foreach (var note in bar.Where(n => n.StartTick + shift >= from && n.StartTick + shift < to && n.StartTick - source < BarTicks(song, at)))
            {
                yield return note with { StartTick = note.StartTick + shift, EndTick = note.EndTick + shift };
            }
        }
    }

    private static Ticks BarTicks(Song song, long bar) => song.Metres.BarStart(bar + 1) - song.Metres.BarStart(bar);

    private static Ticks TickOf(Song song, double bar)
    {
        var whole = (long)Math.Floor(bar);
        return song.Metres.BarStart(whole - 1) + new Ticks((long)Math.Round(BarTicks(song, whole - 1).Count * (bar - whole)));
    }
}

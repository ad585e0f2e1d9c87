using System.Collections.Immutable;
using System.Text;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>The notes of a song element by element, as they were performed, with its tempo and its metre.</summary>
/// <param name="song">The session's MIDI file.</param>
/// <param name="view">The split.</param>
public sealed class ElementNotes(MidiFile song, SplitView view)
{
    private readonly ImmutableArray<MidiEvent> _time = [.. song.Tracks.SelectMany(t => t).Where(e => e.Status == 0xFF && e.MetaType is MidiFile.SetTempo or MidiFile.TimeSignature).OrderBy(e => e.Tick)];
    private readonly Song _played = Song.Of(song);

    /// <summary>The elements that notes play, each with its name and its notes in the order of time.</summary>
    public IEnumerable<(string Name, ImmutableArray<Note> Notes)> Elements()
    {
        var several = view.SoundingElements.CountBy(e => e.Chart.Name).Where(c => c.Value > 1).Select(c => c.Key).ToHashSet();
        foreach (var element in view.SoundingElements.Where(e => e.Chart.Kind is ElementKind.Voice or ElementKind.NoteOnly))
        {
            ImmutableArray<Note> notes = [.. Voices(element.Unit, element.Chart).SelectMany(v => PerformedNotes.Of(view.Split, element.Unit, v, _played)).Distinct().OrderBy(n => n.StartTick).ThenBy(n => n.Key)];
            if (!notes.IsEmpty)
            {
                yield return (several.Contains(element.Chart.Name) ? $"{element.Chart.Name} of {element.Unit.Name}" : element.Chart.Name, notes);
            }
        }
    }

    /// <summary>One file with a track for each element, behind one of tempo and metre.</summary>
    public MidiFile Together() => new(1, song.TimeBase, [Time(), .. Elements().Select(e => Track(e.Name, e.Notes))]);

    /// <summary>A file of one element, with tempo and metre.</summary>
    public MidiFile Alone(string name, ImmutableArray<Note> notes) => new(1, song.TimeBase, [Time(), Track(name, notes)]);

    private static IEnumerable<ChartVoice> Voices(Unit unit, ChartElement element) => element.Hears.Where(h => !h.Bleed).Select(h => unit.Chart.Voices.First(v => v.Id == h.VoiceId));

    private ImmutableArray<MidiEvent> Time() => [.. _time, MidiEvent.Meta(_time.Select(e => e.Tick).DefaultIfEmpty().Max(), MidiFile.EndOfTrack)];

    private static ImmutableArray<MidiEvent> Track(string name, ImmutableArray<Note> notes) =>
    [
        MidiEvent.Meta(0, MidiFile.TrackName, Encoding.UTF8.GetBytes(name)),
        .. notes.SelectMany(n => new[]
        {
            MidiEvent.Message(n.StartTick, 0x90, n.Channel, (byte)n.Key, (byte)n.Velocity),
            MidiEvent.Message(n.EndTick, 0x80, n.Channel, (byte)n.Key, 0),
        }).OrderBy(e => e.Tick).ThenBy(e => e.IsNoteOn),
        MidiEvent.Meta(notes.Max(n => n.EndTick), MidiFile.EndOfTrack),
    ];
}

using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Planning;

/// <summary>
/// The song with one note track beside each audio track: the notes that play what the track carries, so that a sound
/// can be replaced later. Tempo and metre stand in a track of their own in front.
/// </summary>
public static class NoteTracks
{
    /// <summary>Makes the file; tracks that keep no notes or carry nothing that notes play are left out.</summary>
    /// <param name="song">The session's MIDI file.</param>
    /// <param name="view">Its split.</param>
    public static MidiFile Of(MidiFile song, SplitView view)
    {
        var events = song.Tracks.SelectMany(t => t).OrderBy(e => e.Tick).ToList();
        var end = events.Select(e => e.Tick).DefaultIfEmpty().Max();
        var played = new Lazy<Song>(() => Song.Of(song));
        var tracks = ImmutableArray.CreateBuilder<ImmutableArray<MidiEvent>>();
        tracks.Add([.. events.Where(e => e.Status == 0xFF && e.MetaType is MidiFile.SetTempo or MidiFile.TimeSignature), MidiEvent.Meta(end, MidiFile.EndOfTrack)]);
        foreach (var track in view.Split.Tracks.Where(t => t.KeepsNotes))
        {
            var voices = Voices(view, track);
            var performed = voices.Where(v => PerformedNotes.Changes(view.Split, v.Unit, v.Voice)).ToList();
            var written = voices.Where(v => !performed.Contains(v)).ToList();
            var notes = events.Where(e => (e.IsNoteOn || e.IsNoteOff) && written.Any(v => v.Unit.Plays(v.Voice, e.Channel, e.Data[0])))
                .Concat(performed.SelectMany(v => PerformedNotes.Of(view.Split, v.Unit, v.Voice, played.Value)).Distinct().SelectMany(OnAndOff))
                .OrderBy(e => e.Tick).ThenBy(e => e.IsNoteOn)
                .ToList();
            if (notes.Count > 0)
            {
                tracks.Add(
                [
                    MidiEvent.Meta(0, MidiFile.TrackName, System.Text.Encoding.UTF8.GetBytes(track.Title)),
                    .. notes,
                    MidiEvent.Meta(end, MidiFile.EndOfTrack),
                ]);
            }
        }

        return new MidiFile(1, song.TimeBase, tracks.ToImmutable());
    }

    private static IEnumerable<MidiEvent> OnAndOff(Note note) =>
    [
        MidiEvent.Message(note.StartTick, 0x90, note.Channel, (byte)note.Key, (byte)note.Velocity),
        MidiEvent.Message(note.EndTick, 0x80, note.Channel, (byte)note.Key, 0),
    ];

    private static List<(Unit Unit, ChartVoice Voice)> Voices(SplitView view, Track track) =>
    [
        .. from element in view.SoundingIn(track)
           let found = view.ElementOf(element)
           from heard in found.Chart.Hears
           where !heard.Bleed
           select (found.Unit, found.Unit.Chart.Voices.First(v => v.Id == heard.VoiceId)),
    ];
}

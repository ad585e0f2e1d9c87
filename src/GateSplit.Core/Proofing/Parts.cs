using System.Collections.Immutable;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Proofing;

/// <summary>What the tracks of a split ought to hold.</summary>
public static class Parts
{
    /// <summary>A part for each of some tracks.</summary>
    /// <param name="view">The split with its song.</param>
    /// <param name="tracks">The tracks.</param>
    /// <returns>In the order of the tracks; one without notes where nobody knows what is meant, or where it is an effect or a mix.</returns>
    public static ImmutableArray<Part> Of(SplitView view, IEnumerable<Track> tracks) => [.. tracks.Select(t => Of(view, t))];

    private static Part Of(SplitView view, Track track)
    {
        var voices = (
            from element in view.MeaningOf(track) is { IsOpen: false } meaning ? meaning.Elements : [.. view.SoundingIn(track)]
            let known = view.ElementOf(element)
            from heard in known.Chart.Hears.Where(h => !h.Bleed)
            select (known.Unit, Voice: known.Unit.Chart.Voices.First(v => v.Id == heard.VoiceId))).Distinct().ToList();
        var held = voices.Count > 0 && voices.TrueForAll(v => v.Voice.Drum is null);
        return view.Song is null ? new(track.Title, [], held) : Of(view.Song, track.Title, n => voices.Exists(v => v.Unit.Plays(v.Voice, n.Channel, n.Key)), held);
    }

    /// <summary>A part of some notes of a song.</summary>
    /// <param name="song">The song.</param>
    /// <param name="name">What it is called.</param>
    /// <param name="its">True of its notes.</param>
    /// <param name="held">True of what is held.</param>
    public static Part Of(Song song, string name, Func<Note, bool> its, bool held)
    {
        var notes = song.Notes.Where(its).ToList();
        return new(name, [.. notes.Select(n => Seconds(song, n.StartTick)).Distinct().Order()], held)
        {
            Keys = notes.Select(n => (n.Channel, n.Key)).ToImmutableHashSet(),
            Tones = held ? [.. notes.Select(n => new Tone(Seconds(song, n.StartTick), Seconds(song, n.EndTick), n.Key)).OrderBy(t => t.Start)] : [],
        };
    }

    private static double Seconds(Song song, Ticks tick)
    {
        var fine = SampleRate.Limits.High;
        return (double)song.Tempos.ToFrames(tick, fine).Count / fine.Hz;
    }
}

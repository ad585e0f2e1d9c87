using System.Collections.Immutable;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
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
    /// <param name="calls">Roll calls, whose signatures tell where notes do not; none where nobody called.</param>
    /// <returns>In the order of the tracks; one without notes where nobody knows what is meant, or where it is an effect or a mix.</returns>
    public static ImmutableArray<Part> Of(SplitView view, IEnumerable<Track> tracks, IEnumerable<RollCallReading>? calls = null)
    {
        var signatures = (from call in calls ?? [] from turn in call.Turns where turn.Turn.Elements.Length == 1 && !turn.Arrivals.IsEmpty select (Element: turn.Turn.Elements[0], turn.Signature))
            .GroupBy(s => s.Element).ToDictionary(g => g.Key, g => g.Last().Signature);
        return [.. tracks.Select(t => Of(view, t, signatures))];
    }

    private static Part Of(SplitView view, Track track, Dictionary<ElementRef, ImmutableArray<double>> signatures)
    {
        var elements = view.MeaningOf(track) is { IsOpen: false } meaning ? meaning.Elements.ToList() : [.. view.SoundingIn(track)];
        return Played(view, track, elements) with { Signature = elements is [var only] && signatures.TryGetValue(only, out var signature) ? signature : [] };
    }

    private static Part Played(SplitView view, Track track, List<ElementRef> elements)
    {
        var voices = (
            from element in elements
            let known = view.ElementOf(element)
            from heard in known.Chart.Hears.Where(h => !h.Bleed)
            select (known.Unit, Voice: known.Unit.Chart.Voices.First(v => v.Id == heard.VoiceId))).Distinct().ToList();
        var held = voices.Count > 0 && voices.TrueForAll(v => v.Voice.Drum is null);
        if (view.Song is not { } song)
        {
            return new(track.Title, [], held);
        }

        // Two sources may play the same keys, and are two sounds all the same.
        const int Channels = 16;
        var pass = view.Split.Pass;
        var (from, until) = (song.Metres.BarStart(pass.StartBar - 1), song.Metres.BarStart(pass.LengthBars));
        var notes = voices
            .SelectMany(v => PerformedNotes.Of(view.Whole, v.Unit, v.Voice, song).Select(n => n with { Channel = n.Channel + Channels * view.Whole.Units.IndexOf(v.Unit) }))
            .Where(n => n.StartTick >= from && n.StartTick < until)
            .ToList();
        return Of(song, track.Title, notes, held);
    }

    /// <summary>A part of some notes of a song.</summary>
    /// <param name="song">The song.</param>
    /// <param name="name">What it is called.</param>
    /// <param name="its">True of its notes.</param>
    /// <param name="held">True of what is held.</param>
    public static Part Of(Song song, string name, Func<Note, bool> its, bool held) => Of(song, name, [.. song.Notes.Where(its)], held);

    private static Part Of(Song song, string name, List<Note> notes, bool held)
    {
        var apart = Apart(notes.Select(n => (Seconds(song, n.StartTick), (n.Channel, n.Key))));
        List<string> keys = [.. apart.Select(a => string.Join(' ', a.Keys))];
        var sounds = keys.Distinct().Select((k, i) => (k, i)).ToDictionary();
        return new(name, [.. apart.Select(a => a.Start)], held)
        {
            Keys = notes.Select(n => (n.Channel, n.Key)).ToImmutableHashSet(),
            Sounds = [.. keys.Select(k => sounds[k])],
            Tones = held ? [.. notes.Select(n => new Tone(Seconds(song, n.StartTick), Seconds(song, n.EndTick), n.Key)).OrderBy(t => t.Start)] : [],
        };
    }

    /// <summary>When something begins, and by which keys: what a hand plays together begins within a few milliseconds, and is heard as one.</summary>
    private static List<(double Start, SortedSet<(int Channel, int Key)> Keys)> Apart(IEnumerable<(double Start, (int Channel, int Key) Key)> notes)
    {
        const double Together = 0.015; // s
        var apart = new List<(double Start, SortedSet<(int Channel, int Key)> Keys)>();
        foreach (var (start, key) in notes.OrderBy(n => n.Start))
        {
            if (apart.Count == 0 || start - apart[^1].Start >= Together)
            {
                apart.Add((start, []));
            }

            apart[^1].Keys.Add(key);
        }

        return apart;
    }

    private static double Seconds(Song song, Ticks tick)
    {
        var fine = SampleRate.Limits.High;
        return (double)song.Tempos.ToFrames(tick, fine).Count / fine.Hz;
    }
}

using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>Which element a track holds that lies so far beside its take that its own notes are not met there: its beginnings are moved until they are.</summary>
internal static class ByLag
{
    private const double Near = 0.06; // s: music repeats after more
    private const double Step = 0.002; // s
    private const int Tried = 12; // tops of the histogram
    private const double Enough = 0.6; // a score below it is chance, where so many places are tried
    private const int LeastNotes = 6; // as many as chance does not meet
    private const double Rival = 0.85; // of the best score: a part or a place that fits as well
    private const double ByName = 0.02; // of two parts that fit alike, the one the track is called after

    /// <summary>Pairs the tracks that nothing has told with the struck parts that no other track holds.</summary>
    /// <param name="tracks">Where the sounds of each track begin.</param>
    /// <param name="parts">The parts.</param>
    /// <param name="known">What is known of each track.</param>
    /// <param name="named">The part each track is called after; null for none.</param>
    /// <param name="time">The time of the take.</param>
    /// <returns>What is known then.</returns>
    public static ImmutableArray<Identity> Of(IReadOnlyList<ImmutableArray<Onset>> tracks, IReadOnlyList<Part> parts, ImmutableArray<Identity> known, IReadOnlyList<int?> named, TakeTime time)
    {
        var told = known.ToBuilder();
        var asked = Enumerable.Range(0, tracks.Count).Where(t => known[t].Part is null && tracks[t].Length >= LeastNotes).ToList();
        while (asked.Count > 0)
        {
            var free = Enumerable.Range(0, parts.Count).Where(p => IsAsked(parts, p) && told.All(t => t.Part != p)).ToList();
            var best = asked.Select(t => (Track: t, Found: Told(tracks[t], parts, free, named[t], time))).Where(t => t.Found is not null).OrderByDescending(t => t.Found!.Certainty).FirstOrDefault();
            if (best.Found is not { } found)
            {
                break;
            }

            told[best.Track] = found;
            asked.Remove(best.Track);
        }

        return told.ToImmutable();
    }

    private static bool IsAsked(IReadOnlyList<Part> parts, int part) => !parts[part].Held && !parts[part].IsFromAfar(parts);

    private static Identity? Told(ImmutableArray<Onset> track, IReadOnlyList<Part> parts, List<int> free, int? named, TakeTime time)
    {
        // What fits best and is held by another file is more of that, and none of the parts that fit worse.
        var places = Enumerable.Range(0, parts.Count).Where(p => IsAsked(parts, p)).SelectMany(p => Lags(track, parts[p], time).Select(lag => (Part: p, Lag: lag, Match: Match.Of(track, parts[p], time with { Offset = time.Offset + lag }))))
            .Where(m => m.Match.Heard.Length >= LeastNotes)
            .OrderByDescending(m => m.Match.Score + (m.Part == named ? ByName : 0))
            .ToList();
        var best = places.Where(m => m.Match.Score >= Rival * places[0].Match.Score).OrderBy(m => Math.Abs(m.Lag) > Near).FirstOrDefault();
        if (best.Match is not { } match || match.Score < Enough || !free.Contains(best.Part))
        {
            return null;
        }

        // Where it is moved by so much that its notes repeat, the next place must be much worse; and so must what other parts play.
        var other = places.Where(m => m.Part != best.Part || (Math.Abs(best.Lag) > Near && Math.Abs(m.Lag - best.Lag) > Near)).Select(m => m.Match.Score).DefaultIfEmpty().Max();
        return other >= Rival * match.Score && !(best.Part == named && Math.Abs(best.Lag) <= Near)
            ? null
            : new(best.Part, Math.Clamp(match.Score * Math.Clamp(0.5 + 2 * (match.Score - other), 0, 1), 0, 1), match.Heard, best.Lag + TheilSen.Median(match.Offsets), parts[best.Part].Notes.Length)
            {
                Offsets = [.. match.Offsets.Select(o => best.Lag + o)],
            };
    }

    /// <summary>By how much later than its take a track may be, in seconds: where most of its beginnings meet a note.</summary>
    private static IEnumerable<double> Lags(ImmutableArray<Onset> track, Part part, TakeTime time)
    {
        var counts = new int[(int)(2 * TakeTime.Furthest / Step) + 1];
        double[] notes = [.. part.Notes.Select(time.Of)];
        foreach (var onset in track)
        {
            var first = Array.BinarySearch(notes, onset.Seconds - TakeTime.Furthest);
            for (var i = first < 0 ? ~first : first; i < notes.Length && notes[i] <= onset.Seconds + TakeTime.Furthest; i++)
            {
                var bin = (int)Math.Round((onset.Seconds - notes[i] + TakeTime.Furthest) / Step);
                for (var near = Math.Max(0, bin - 1); near <= Math.Min(counts.Length - 1, bin + 1); near++)
                {
                    counts[near]++;
                }
            }
        }

        // Even notes fit at many places, of which the nearest is asked as well.
        var tops = Enumerable.Range(0, counts.Length)
            .Where(i => counts[i] > 0 && Enumerable.Range(Math.Max(0, i - 4), 9).All(n => n >= counts.Length || counts[n] <= counts[i]))
            .Select(i => (Lag: i * Step - TakeTime.Furthest, Count: counts[i]))
            .OrderByDescending(t => t.Count)
            .ToList();
        return tops.Take(Tried).Concat(tops.Where(t => Math.Abs(t.Lag) <= Near).Take(1)).Select(t => t.Lag).Distinct();
    }
}

using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>How the time of a take lies to that of its song.</summary>
/// <param name="Offset">Seconds by which the take is late at its start.</param>
/// <param name="Drift">How much slower it runs: 1e-6 is one millionth.</param>
/// <param name="Spread">The standard error of the drift, what it may be wrong by; 0 where the drift is not known.</param>
public sealed record TakeTime(double Offset, double Drift, double Spread = 0)
{
    /// <summary>How much earlier or later than its song a take may be, in seconds.</summary>
    internal const double Furthest = 2.5;

    /// <summary>How many seconds of song are looked at, in which drift cannot yet blur where a take lies.</summary>
    internal const double FirstPart = 30;

    private const double Step = 0.002; // s
    private const int Tried = 80; // tops of the histogram
    private const int Kept = 4; // of those, that are followed along the take
    private const int MostTracks = 24;
    private const double Window = 10; // s
    private const double Within = 0.015; // s beside the last window
    private const double Alike = 0.05; // s: music repeats after more
    private const double AlikeDrift = 5e-5; // more than notes and a recording together can be wrong by
    private const double Surely = 5; // standard errors

    /// <summary>The offset along the take, as it was found window by window.</summary>
    public ImmutableArray<OffsetAt> Found { get; init; } = [];

    /// <summary>True where nothing that is struck tells the offset, or what is struck lies apart and no part of it is more: then it may be some milliseconds wrong.</summary>
    public bool About { get; init; }

    /// <summary>When a note of the song sounds in the take.</summary>
    public double Of(double note) => Offset + note * (1 + Drift);

    /// <summary>True of a place of the take, found by something else, that may be this one.</summary>
    /// <param name="offset">Seconds by which it is late at its start.</param>
    /// <param name="drift">How much slower it runs: 1e-6 is one millionth.</param>
    public bool IsLike(double offset, double drift) =>
        Math.Abs(offset - Offset) < Alike && (Spread == 0 || Math.Abs(drift - Drift) < Math.Max(AlikeDrift, Surely * Spread));

    /// <summary>Times that a take may lie at, the likeliest first: where most beginnings meet a note.</summary>
    /// <param name="tracks">The beginnings of each track.</param>
    /// <param name="parts">The notes of each part.</param>
    public static IEnumerable<TakeTime> Likely(IReadOnlyList<ImmutableArray<Onset>> tracks, IReadOnlyList<Part> parts)
    {
        var notes = parts.SelectMany(p => p.Notes).Distinct().Order().ToArray();
        if (notes.Length == 0)
        {
            return [];
        }

        var counts = Counts(tracks, notes, 0, Furthest);

        // Music repeats, so that many times fit some notes: the best of them is where each track fits one part best.
        var looked = tracks.OrderByDescending(t => t.Length).Take(MostTracks).Select(t => t.Where(o => o.Seconds < notes[0] + FirstPart + Furthest).ToImmutableArray()).ToList();
        var early = parts.Select(p => p with { Notes = [.. p.Notes.Where(n => n < notes[0] + FirstPart)] }).Where(p => !p.Notes.IsEmpty).ToList();
        return Enumerable.Range(0, counts.Length)
            .Where(i => counts[i] > 0 && Enumerable.Range(Math.Max(0, i - 4), 9).All(n => n >= counts.Length || counts[n] <= counts[i]))
            .OrderByDescending(i => counts[i])
            .Take(Tried)
            .OrderByDescending(i => looked.Sum(t => early.Max(p => Match.Of(t, p, new TakeTime(i * Step - Furthest, 0)).Score)))
            .Take(Kept)
            .Select(i => Followed(tracks, notes, i * Step - Furthest));
    }

    /// <summary>Times of a take that something else than its beginnings tells about: where most beginnings near there meet a note.</summary>
    /// <param name="tracks">The beginnings of each track.</param>
    /// <param name="parts">The notes of each part.</param>
    /// <param name="places">Seconds by which the take is late, about.</param>
    public static IEnumerable<TakeTime> Near(IReadOnlyList<ImmutableArray<Onset>> tracks, IReadOnlyList<Part> parts, IEnumerable<double> places)
    {
        const double Beside = 0.06; // s: what swells is heard later than it begins, or fades when the next has begun
        var notes = parts.SelectMany(p => p.Notes).Distinct().Order().ToArray();
        return places.SelectMany(place => new[] { place, place - (2 * Beside) }).Select(place =>
        {
            var counts = Counts(tracks, notes, place, Beside);
            var top = counts.IndexOf(counts.Max());
            return Followed(tracks, notes, counts[top] == 0 ? place : place + (top * Step) - Beside);
        });
    }

    /// <summary>How many beginnings of the first part lie by how much behind a note, in steps from so far before a place to as far behind it.</summary>
    private static double[] Counts(IReadOnlyList<ImmutableArray<Onset>> tracks, double[] notes, double about, double within)
    {
        var counts = new double[(int)Math.Round(2 * within / Step) + 1];
        foreach (var (difference, weight) in Differences(tracks, notes, notes[0] + FirstPart, about, within))
        {
            // Half of it to the neighbours, so that what lies on an edge is not cut in two.
            var bin = (int)Math.Round((difference - about + within) / Step);
            for (var near = Math.Max(0, bin - 2); near <= Math.Min(counts.Length - 1, bin + 2); near++)
            {
                counts[near] += weight / (1 + Math.Abs(near - bin));
            }
        }

        return counts;
    }

    /// <summary>Follows the offset along the take, window by window, and lays a line through what it finds.</summary>
    private static TakeTime Followed(IReadOnlyList<ImmutableArray<Onset>> tracks, double[] notes, double offset)
    {
        var found = new List<(double At, double Value)>();
        var (near, drift) = (offset, 0.0);
        for (var start = notes[0]; start <= notes[^1]; start += Window)
        {
            var differences = Differences(tracks, [.. notes.Where(n => n >= start && n < start + Window)], start + Window, near, Within).Select(d => d.Difference).ToList();
            if (differences.Count > 2)
            {
                near = TheilSen.Median(differences);
                found.Add((start + Window / 2, near));
            }
        }

        if (found.Count > 0)
        {
            (offset, drift) = TheilSen.Fit(found);
        }

        return (found.Count > 2 ? new(offset, drift, SpreadOf(found, offset, drift)) : new TakeTime(offset, 0)) with { Found = [.. found.Select(f => new OffsetAt(f.At, f.Value))] };
    }

    private static double SpreadOf(List<(double At, double Value)> found, double offset, double drift)
    {
        const double OfMedian = 1.4826; // the standard deviation of normal errors over the median of their sizes
        var middle = found.Average(f => f.At);
        const double Least = 0.0005; // s: no window is known better
        var error = Least + OfMedian * TheilSen.Median([.. found.Select(f => Math.Abs(f.Value - offset - drift * f.At))]);
        return error / Math.Sqrt(found.Sum(f => (f.At - middle) * (f.At - middle)));
    }

    private static IEnumerable<(double Difference, double Weight)> Differences(IReadOnlyList<ImmutableArray<Onset>> tracks, double[] notes, double until, double about, double within)
    {
        foreach (var track in tracks.Where(t => t.Length > 0))
        {
            var loudest = track.Max(o => o.Strength);
            foreach (var onset in track.Where(o => o.Seconds - about <= until + within))
            {
                var first = Array.BinarySearch(notes, onset.Seconds - about - within);
                for (var i = first < 0 ? ~first : first; i < notes.Length && notes[i] <= onset.Seconds - about + within && notes[i] <= until; i++)
                {
                    yield return (onset.Seconds - notes[i], onset.Strength / loudest);
                }
            }
        }
    }
}

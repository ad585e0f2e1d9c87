using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>How well a track fits a part.</summary>
/// <param name="Score">0 to 1: the geometric mean of the share of notes that are heard and the share of its energy that begins at a note.</param>
/// <param name="Heard">Which notes are heard, by their place in the part.</param>
/// <param name="Offsets">By how much later than they should, in seconds, one for each of them.</param>
internal sealed record Match(double Score, ImmutableArray<int> Heard, ImmutableArray<double> Offsets)
{
    /// <summary>How strongly each of them begins.</summary>
    public ImmutableArray<double> Strengths { get; init; } = [];

    private const double Faint = 0.04; // 28 dB: a ghost note is louder

    /// <summary>Fits them.</summary>
    /// <param name="track">Where the track's sounds begin.</param>
    /// <param name="part">The part.</param>
    /// <param name="time">The time of the take.</param>
    /// <param name="fromAfar">True of what hears several elements, and so stands away from them.</param>
    public static Match Of(ImmutableArray<Onset> track, Part part, TakeTime time, bool fromAfar = false)
    {
        const double SoundsWay = 0.04; // s: 14 m
        if (track.IsEmpty || part.Notes.IsEmpty)
        {
            return new(0, [], []);
        }

        var (early, late) = (part.Tolerance.Early, part.Tolerance.Late + (fromAfar ? SoundsWay : 0));
        var (found, next) = (new List<(int Note, Onset Onset, double Offset)>(), 0);
        for (var note = 0; note < part.Notes.Length; note++)
        {
            var wanted = time.Of(part.Notes[note]);
            while (next < track.Length && track[next].Seconds < wanted - early)
            {
                next++;
            }

            if (next < track.Length && track[next].Seconds <= wanted + late)
            {
                found.Add((note, track[next], track[next].Seconds - wanted));
                next++;
            }
        }

        if (found.Count == 0)
        {
            return new(0, [], []);
        }

        // What is far softer than all others is another element that plays at the same time.
        var usual = TheilSen.Median([.. found.Select(f => f.Onset.Strength)]);
        found.RemoveAll(f => f.Onset.Strength < Faint * usual);
        var all = track.Sum(o => o.Strength * o.Strength);
        var energy = found.Sum(f => f.Onset.Strength * f.Onset.Strength);
        return new(Math.Sqrt((double)found.Count / part.Notes.Length * (energy / all)), [.. found.Select(f => f.Note)], [.. found.Select(f => f.Offset)])
        {
            Strengths = [.. found.Select(f => f.Onset.Strength)],
        };
    }
}

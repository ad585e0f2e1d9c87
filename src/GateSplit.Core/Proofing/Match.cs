using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>How well a track fits a part.</summary>
/// <param name="Score">0 to 1: the geometric mean of the share of notes that are heard and the share of its energy that begins at a note.</param>
/// <param name="Heard">Which notes are heard, by their place in the part.</param>
/// <param name="Offsets">By how much later than they should, in seconds, one for each of them.</param>
internal sealed record Match(double Score, ImmutableArray<int> Heard, ImmutableArray<double> Offsets)
{
    /// <summary>Fits them.</summary>
    /// <param name="track">Where the track's sounds begin.</param>
    /// <param name="part">The part.</param>
    /// <param name="time">The time of the take.</param>
    public static Match Of(ImmutableArray<Onset> track, Part part, TakeTime time)
    {
        if (track.IsEmpty || part.Notes.IsEmpty)
        {
            return new(0, [], []);
        }

        var (early, late) = part.Tolerance;
        var (heard, offsets, energy, next) = (ImmutableArray.CreateBuilder<int>(), ImmutableArray.CreateBuilder<double>(), 0.0, 0);
        for (var note = 0; note < part.Notes.Length; note++)
        {
            var wanted = time.Of(part.Notes[note]);
            while (next < track.Length && track[next].Seconds < wanted - early)
            {
                next++;
            }

            if (next < track.Length && track[next].Seconds <= wanted + late)
            {
                heard.Add(note);
                offsets.Add(track[next].Seconds - wanted);
                energy += track[next].Strength * track[next].Strength;
                next++;
            }
        }

        var all = track.Sum(o => o.Strength * o.Strength);
        return new(Math.Sqrt((double)offsets.Count / part.Notes.Length * (energy / all)), heard.ToImmutable(), offsets.ToImmutable());
    }
}

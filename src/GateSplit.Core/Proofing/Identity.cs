using System.Collections.Immutable;

namespace GateSplit.Core.Proofing;

/// <summary>Which part a track holds.</summary>
/// <param name="Part">Its place among the parts; null where it holds none of them.</param>
/// <param name="Certainty">0 to 1; a half where another part fits as well.</param>
/// <param name="Hits">How many of its notes are heard.</param>
/// <param name="Offset">By how much later than the take they come, in seconds; null for none.</param>
public sealed record Identity(int? Part, double Certainty, int Hits, double? Offset)
{
    private const double Enough = 0.4; // a score below it is chance
    private const double ByName = 0.02; // of two parts that fit alike, the one the track is called after

    /// <summary>Pairs tracks and parts so that all together fit best.</summary>
    /// <param name="tracks">Where the sounds of each track begin.</param>
    /// <param name="parts">What there is.</param>
    /// <param name="named">The part each track is called after; null for none.</param>
    /// <returns>The time of the take, or null where nothing fits; and an identity for each track.</returns>
    public static (TakeTime? Time, ImmutableArray<Identity> Tracks) Of(IReadOnlyList<ImmutableArray<Onset>> tracks, IReadOnlyList<Part> parts, IReadOnlyList<int?> named)
    {
        var tried = TakeTime.Likely(tracks, parts).Select(time => Paired(tracks, parts, named, time)).ToList();
        return tried.Count == 0
            ? (null, [.. tracks.Select(_ => new Identity(null, 0, 0, null))])
            : tried.MaxBy(t => t.Sum) is var best && best.Tracks.All(t => t.Part is null) ? (null, best.Tracks) : (best.Time, best.Tracks);
    }

    private static (TakeTime Time, double Sum, ImmutableArray<Identity> Tracks) Paired(
        IReadOnlyList<ImmutableArray<Onset>> tracks, IReadOnlyList<Part> parts, IReadOnlyList<int?> named, TakeTime time)
    {
        var matches = new Match[tracks.Count, parts.Count];
        var gains = new double[tracks.Count, parts.Count];
        for (var track = 0; track < tracks.Count; track++)
        {
            for (var part = 0; part < parts.Count; part++)
            {
                matches[track, part] = Match.Of(tracks[track], parts[part], time);
                gains[track, part] = matches[track, part].Score + (named[track] == part ? ByName : 0);
            }
        }

        var best = Assignment.Best(gains);
        var sum = best.Select((part, track) => part is { } p ? matches[track, p].Score : 0).Sum();
        return (time, sum, [.. best.Select((part, track) => Told(track, part))]);

        Identity Told(int track, int? part)
        {
            if (part is not { } own || matches[track, own] is not { Score: >= Enough } match)
            {
                return new(null, 0, 0, null);
            }

            var other = Enumerable.Range(0, parts.Count).Where(p => p != own).Select(p => matches[track, p].Score).DefaultIfEmpty().Max();
            return new(own, match.Score * Math.Clamp(0.5 + 2 * (match.Score - other), 0, 1), match.Hits, TheilSen.Median(match.Offsets));
        }
    }
}

using System.Collections.Immutable;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>Which element a track holds, by its sound: what no notes tell, the signatures of a roll call do.</summary>
internal static class BySound
{
    private const int MostHits = 12;
    private const double Alike = 0.85;
    private const double Surely = 0.12; // so much more alike than any other

    /// <summary>Pairs the tracks that no notes have told with the parts that have a signature and no notes.</summary>
    /// <param name="sounds">The tracks; null for a silent one.</param>
    /// <param name="onsets">Where their sounds begin.</param>
    /// <param name="parts">The parts.</param>
    /// <param name="known">What the notes have told.</param>
    /// <param name="named">The part each track is called after; null for none.</param>
    /// <returns>What is known then.</returns>
    public static ImmutableArray<Identity> Of(IReadOnlyList<IMonoSound?> sounds, IReadOnlyList<ImmutableArray<Onset>> onsets, IReadOnlyList<Part> parts, ImmutableArray<Identity> known, IReadOnlyList<int?> named)
    {
        var asked = Enumerable.Range(0, parts.Count).Where(p => parts[p].Notes.IsEmpty && !parts[p].Signature.IsEmpty).ToList();
        var tracks = Enumerable.Range(0, sounds.Count).Where(t => known[t].Part is null && sounds[t] is not null && !onsets[t].IsEmpty && (named[t] is not { } own || parts[own].Notes.IsEmpty)).ToList();
        if (asked.Count == 0 || tracks.Count == 0)
        {
            return known;
        }

        var likeness = new double[tracks.Count, asked.Count];
        for (var t = 0; t < tracks.Count; t++)
        {
            var signature = Signature.Of(sounds[tracks[t]]!, onsets[tracks[t]].OrderByDescending(o => o.Strength).Take(MostHits).Select(o => o.Seconds));
            for (var p = 0; p < asked.Count; p++)
            {
                likeness[t, p] = Signature.Likeness(signature, parts[asked[p]].Signature);
            }
        }

        var best = Assignment.Best(likeness);
        var told = known.ToBuilder();
        for (var t = 0; t < tracks.Count; t++)
        {
            if (best[t] is { } p && likeness[t, p] >= Alike)
            {
                var other = Enumerable.Range(0, asked.Count).Where(o => o != p).Select(o => likeness[t, o]).DefaultIfEmpty().Max();
                told[tracks[t]] = new(asked[p], Math.Clamp(0.5 + (likeness[t, p] - other) / (2 * Surely), 0, 1) * likeness[t, p], [], null);
            }
        }

        return told.ToImmutable();
    }
}

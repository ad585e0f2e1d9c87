using System.Collections.Immutable;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Gains that bring tracks to a level, all turned by the same, so that they stay as they are to each other.</summary>
public static class GainToTarget
{
    /// <summary>The gain at which the highest of them peaks at a level.</summary>
    /// <param name="proof">What is known of them.</param>
    /// <param name="tracks">Which.</param>
    /// <param name="target">True peak, dBTP.</param>
    /// <returns>Or a sentence where nothing sounds in them.</returns>
    public static Result<ChangeGain> Peak(TakeProof proof, ImmutableArray<TrackId> tracks, Decibels target) =>
        Of(proof, tracks, t => t.Scan.Levels.TruePeaks.Max(), target);

    /// <summary>The gain at which the loudest of them is as loud as that.</summary>
    /// <param name="proof">What is known of them.</param>
    /// <param name="tracks">Which.</param>
    /// <param name="target">Integrated loudness, LUFS.</param>
    /// <returns>Or a sentence where nothing sounds in them long enough to have a loudness.</returns>
    public static Result<ChangeGain> Loudness(TakeProof proof, ImmutableArray<TrackId> tracks, Decibels target) =>
        Of(proof, tracks, t => t.Scan.Levels.Loudness.Integrated is { } loud ? new Decibels(loud) : Decibels.Silence, target);

    private static Result<ChangeGain> Of(TakeProof proof, ImmutableArray<TrackId> tracks, Func<TrackProof, Decibels> level, Decibels target)
    {
        var highest = proof.Tracks.Where(t => tracks.Any(id => id.Value == t.Id)).Select(level).DefaultIfEmpty(Decibels.Silence).Max();
        return highest > Decibels.Silence ? new ChangeGain(tracks, target - highest) : new Refusal("Nothing sounds in these tracks that could be brought to a level.");
    }
}

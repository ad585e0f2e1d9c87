using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>A take with what its mends make of it. The printed files stay as they are.</summary>
/// <param name="Tracks">Its tracks, in order.</param>
public sealed record MendedTake(ImmutableArray<MendedTrack> Tracks)
{
    /// <summary>With one track changed.</summary>
    /// <param name="id">The track.</param>
    /// <param name="change">What becomes of it.</param>
    /// <returns>Or a sentence where there is no such track.</returns>
    public Result<MendedTake> With(TrackId id, Func<MendedTrack, Result<MendedTrack>> change)
    {
        if (Tracks.FirstOrDefault(t => t.Id == id) is not { } track)
        {
            return new Refusal("This take has no such track.");
        }

        var changed = change(track);
        return changed.Ok ? this with { Tracks = Tracks.Replace(track, changed.Value) } : new Refusal(changed.Trouble);
    }

    /// <summary>With all mends of a list, one after the other.</summary>
    /// <returns>Or the sentence of the first that cannot be done.</returns>
    public Result<MendedTake> With(IEnumerable<Mend> mends)
    {
        var take = this;
        foreach (var mend in mends)
        {
            var next = mend.Apply(take);
            if (!next.Ok)
            {
                return next;
            }

            take = next.Value;
        }

        return take;
    }

    /// <summary>The name of a track, for sentences.</summary>
    internal string NameOf(TrackId id) => Tracks.FirstOrDefault(t => t.Id == id)?.Name ?? id.Value;
}

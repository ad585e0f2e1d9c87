using System.Globalization;

namespace GateSplit.Core.Proofing;

/// <summary>Cuts all tracks to one stretch of time, with short fades.</summary>
/// <param name="FromSeconds">Where it begins.</param>
/// <param name="ToSeconds">Where it ends, with its tail.</param>
/// <param name="FadeSeconds">How long the fades at its ends are.</param>
public sealed record Trim(double FromSeconds, double ToSeconds, double FadeSeconds) : Mend
{
    /// <inheritdoc/>
    public override string Name(MendedTake take) => string.Create(CultureInfo.InvariantCulture, $"Trim to {FromSeconds:0.000} to {ToSeconds:0.000} s");

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take)
    {
        if (!(FromSeconds >= 0 && ToSeconds > FromSeconds && ToSeconds < 86400 && FadeSeconds >= 0 && 2 * FadeSeconds <= ToSeconds - FromSeconds))
        {
            return new Refusal("A take is trimmed from a time in it to a later one, with fades that fit between them.");
        }

        return take with { Tracks = [.. take.Tracks.Select(Trimmed)] };
    }

    private MendedTrack Trimmed(MendedTrack track)
    {
        var rate = track.Rate.Hz;
        var (from, to, fade) = ((long)Math.Round(FromSeconds * rate), (long)Math.Round(ToSeconds * rate), (long)Math.Round(FadeSeconds * rate));
        return track with { Plan = track.Plan.Placed(from, 0) with { Frames = new(to - from), FadeIn = new(FromSeconds > 0 ? fade : 0), FadeOut = new(fade) } };
    }
}

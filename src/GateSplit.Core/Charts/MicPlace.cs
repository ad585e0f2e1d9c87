using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>Where a microphone stands to what it is meant for: what gives it a tone of its own.</summary>
/// <param name="Nearness">0 for far off to 1 for inside: the nearer, the more of the lows (proximity).</param>
/// <param name="Angle">Degrees beside its axis, 0 to 90: the more, the less of the highs.</param>
/// <param name="Under">True for one beneath a drum, which hears it upside down.</param>
public sealed record MicPlace(double Nearness, double Angle, bool Under = false)
{
    /// <summary>How near it may stand.</summary>
    public static Limits<double> Nearnesses => new(0, 1);

    /// <summary>How far beside its axis, in degrees.</summary>
    public static Limits<double> Angles => new(0, 90);

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Core.Misfits.Unless(
        Nearnesses.Hold(Nearness) && Angles.Hold(Angle), place, $"a microphone stands at a nearness of {Nearnesses} and {Angles} degrees beside its axis.");
}

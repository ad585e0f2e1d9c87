using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>How a stand-in sounds a struck voice: a tuned body that bends down, filtered noise, and metal partials.</summary>
public sealed record DrumPatch
{
    /// <summary>Pitch of the body in hertz once the bend is over.</summary>
    public double BodyHz { get; init; } = 100;

    /// <summary>Level of the body, 0 to 1.</summary>
    public double BodyLevel { get; init; }

    /// <summary>Seconds until the body has fallen by 60 dB.</summary>
    public double BodyDecaySeconds { get; init; } = 0.3;

    /// <summary>How many octaves above its pitch the body begins.</summary>
    public double BendOctaves { get; init; }

    /// <summary>Seconds until the bend has fallen to a thousandth.</summary>
    public double BendSeconds { get; init; } = 0.05;

    /// <summary>Level of a second mode of the body at 1.593 times its pitch, the first overtone of a drum skin.</summary>
    public double OvertoneLevel { get; init; }

    /// <summary>Level of the noise, 0 to 1.</summary>
    public double NoiseLevel { get; init; }

    /// <summary>Seconds until the noise has fallen by 60 dB.</summary>
    public double NoiseDecaySeconds { get; init; } = 0.2;

    /// <summary>Noise below this is cut, in hertz.</summary>
    public double NoiseLowHz { get; init; } = 200;

    /// <summary>Noise above this is cut, in hertz.</summary>
    public double NoiseHighHz { get; init; } = 12000;

    /// <summary>How many bursts the noise begins with, 11 ms apart; 1 for none, 3 or 4 for hands.</summary>
    public int Bursts { get; init; } = 1;

    /// <summary>Level of six inharmonic square partials, 0 to 1.</summary>
    public double MetalLevel { get; init; }

    /// <summary>Pitch of the lowest metal partial in hertz.</summary>
    public double MetalHz { get; init; } = 320;

    /// <summary>Seconds until the metal has fallen by 60 dB.</summary>
    public double MetalDecaySeconds { get; init; } = 0.3;

    /// <summary>Voices with the same number above 0 cut each other off, as a closing hat does.</summary>
    public int ChokeGroup { get; init; }

    /// <summary>
    /// About what it peaks at when struck as hard as can be, 1 for full scale: the parts rarely peak together, noise has
    /// the less left the more of it is cut off below, and squares stay below their level once they are filtered.
    /// </summary>
    public double Peak => BodyLevel + 0.8 * OvertoneLevel + 0.8 * (1 - NoiseLowHz / 16000) * NoiseLevel + 0.55 * MetalLevel;

    /// <summary>Seconds until the longest part has fallen by 60 dB.</summary>
    public double LongestDecaySeconds => Math.Max(
        BodyLevel > 0 || OvertoneLevel > 0 ? BodyDecaySeconds : 0,
        Math.Max(NoiseLevel > 0 ? NoiseDecaySeconds : 0, MetalLevel > 0 ? MetalDecaySeconds : 0));

    /// <summary>Levels of its parts.</summary>
    public static Limits<double> Levels => new(0, 1);

    /// <summary>Pitches and corners of filters, in hertz.</summary>
    public static Limits<double> Hertz => new(10, 22000);

    /// <summary>Decays, in seconds.</summary>
    public static Limits<double> Decays => new(0.005, 60);

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) =>
    [
        .. Core.Misfits.Unless(Levels.Hold(BodyLevel) && Levels.Hold(OvertoneLevel) && Levels.Hold(NoiseLevel) && Levels.Hold(MetalLevel), place, $"levels go from {Levels}."),
        .. Core.Misfits.Unless(Hertz.Hold(BodyHz) && Hertz.Hold(NoiseLowHz) && Hertz.Hold(NoiseHighHz) && Hertz.Hold(MetalHz), place, $"pitches and filters go from {Hertz} Hz."),
        .. Core.Misfits.Unless(Decays.Hold(BodyDecaySeconds) && Decays.Hold(NoiseDecaySeconds) && Decays.Hold(MetalDecaySeconds) && Decays.Hold(BendSeconds), place, $"decays go from {Decays} seconds."),
        .. Core.Misfits.Unless(BendOctaves is >= 0 and <= 6 && Bursts is >= 1 and <= 16 && ChokeGroup is >= 0 and <= 64, place, "it bends by 0 to 6 octaves, has 1 to 16 bursts and a choke group from 0 to 64."),
    ];
}

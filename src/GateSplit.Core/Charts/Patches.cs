using System.Collections.Immutable;
using GateSplit.Core.Quantities;
namespace GateSplit.Core.Charts;

/// <summary>Sounds that several charts share.</summary>
internal static class Patches
{
    /// <summary>A voice that a stereo element hears from two places: on the one side at once, on the other from farther away.</summary>
    /// <param name="voice">The voice.</param>
    /// <param name="metres">How much farther.</param>
    /// <param name="pan">How far the two lie apart: 1 for hard left and right.</param>
    public static ImmutableArray<Hearing> Wide(VoiceId voice, double metres, double pan) =>
        [new(voice, new Decibels(-3), 0, new Pan(-pan)), new(voice, new Decibels(-3), metres, new Pan(pan))];

    /// <summary>The same, as wide as its family stands: a bass narrow, a pad all over.</summary>
    public static ImmutableArray<Hearing> Wide(VoiceId voice, Family family) => family switch
    {
        Family.Bass => Wide(voice, 0.9, 0.2),
        Family.Lead => Wide(voice, 1.7, 0.4),
        _ => Wide(voice, 2.9, 0.65),
    };

    /// <summary>A low drum.</summary>
    public static DrumPatch Kick(double hertz = 48, double decaySeconds = 0.5) => new()
    {
        BodyHz = hertz,
        BodyLevel = 0.85,
        BodyDecaySeconds = decaySeconds,
        BendOctaves = 2.2,
        BendSeconds = 0.07,
        NoiseLevel = 0.08,
        NoiseDecaySeconds = 0.02,
        NoiseLowHz = 1500,
        NoiseHighHz = 7000,
    };

    /// <summary>A snare.</summary>
    public static DrumPatch Snare(double hertz = 195) => new()
    {
        BodyHz = hertz,
        BodyLevel = 0.35,
        BodyDecaySeconds = 0.16,
        OvertoneLevel = 0.18,
        NoiseLevel = 0.5,
        NoiseDecaySeconds = 0.24,
        NoiseLowHz = 1000,
        NoiseHighHz = 10000,
    };

    /// <summary>Hands.</summary>
    public static DrumPatch Clap() => new() { NoiseLevel = 0.65, NoiseDecaySeconds = 0.25, NoiseLowHz = 800, NoiseHighHz = 3400, Bursts = 4 };

    /// <summary>A stick on a rim, a block, a clave.</summary>
    public static DrumPatch Click(double hertz) => new() { BodyHz = hertz, BodyLevel = 0.4, BodyDecaySeconds = 0.05, OvertoneLevel = 0.25 };

    /// <summary>A hat, closed or open; those of one group cut each other off.</summary>
    public static DrumPatch Hat(double decaySeconds, int chokeGroup = 1) => new()
    {
        MetalLevel = 0.28,
        MetalHz = 390,
        MetalDecaySeconds = decaySeconds,
        NoiseLevel = 0.15,
        NoiseDecaySeconds = decaySeconds,
        NoiseLowHz = 7500,
        NoiseHighHz = 16000,
        ChokeGroup = chokeGroup,
    };

    /// <summary>A cymbal.</summary>
    public static DrumPatch Cymbal(double hertz = 300, double decaySeconds = 1.3) => new()
    {
        MetalLevel = 0.22,
        MetalHz = hertz,
        MetalDecaySeconds = decaySeconds,
        NoiseLevel = 0.2,
        NoiseDecaySeconds = decaySeconds,
        NoiseLowHz = 4000,
        NoiseHighHz = 15000,
    };

    /// <summary>A tom or another tuned drum.</summary>
    public static DrumPatch Tom(double hertz, double decaySeconds = 0.38) => new()
    {
        BodyHz = hertz,
        BodyLevel = 0.6,
        BodyDecaySeconds = decaySeconds,
        BendOctaves = 0.7,
        BendSeconds = 0.1,
        OvertoneLevel = 0.12,
    };

    /// <summary>A shaker.</summary>
    public static DrumPatch Shaker() => new() { NoiseLevel = 0.4, NoiseDecaySeconds = 0.07, NoiseLowHz = 5000, NoiseHighHz = 14000 };

    /// <summary>A bass.</summary>
    public static TonePatch Bass() => new() { Saw = 0.8, Sine = 0.5, DetuneCents = 5, DecaySeconds = 0.35, Sustain = 0.5, ReleaseSeconds = 0.12, CutoffHz = 280, CutoffOctaves = 2, Level = 0.32 };

    /// <summary>Keys.</summary>
    public static TonePatch Keys() => new() { Saw = 0.5, Sine = 0.4, DecaySeconds = 0.9, Sustain = 0.3, ReleaseSeconds = 0.35, CutoffHz = 1000, CutoffOctaves = 1.4, Level = 0.16 };

    /// <summary>A pad.</summary>
    public static TonePatch Pad() => new() { Saw = 0.9, DetuneCents = 14, AttackSeconds = 0.5, DecaySeconds = 1.5, Sustain = 0.8, ReleaseSeconds = 1.2, CutoffHz = 800, CutoffOctaves = 0.8, Level = 0.09 };

    /// <summary>A lead.</summary>
    public static TonePatch Lead() => new() { Saw = 0.7, Sine = 0.3, DetuneCents = 9, AttackSeconds = 0.02, DecaySeconds = 0.5, Sustain = 0.7, ReleaseSeconds = 0.25, CutoffHz = 1300, CutoffOctaves = 1.4, Level = 0.16 };

    /// <summary>A bell.</summary>
    public static TonePatch Bell() => new() { Bell = 0.9, DecaySeconds = 1.4, Sustain = 0, ReleaseSeconds = 1, CutoffHz = 9000, CutoffOctaves = 0, Level = 0.2 };
}

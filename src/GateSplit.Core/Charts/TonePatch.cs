namespace GateSplit.Core.Charts;

/// <summary>How a stand-in sounds a held note: two detuned oscillators or a bell, an envelope, and a low-pass that follows it.</summary>
public sealed record TonePatch
{
    /// <summary>Share of the saw oscillators, 0 to 1.</summary>
    public double Saw { get; init; }

    /// <summary>Share of a sine at the note's pitch.</summary>
    public double Sine { get; init; }

    /// <summary>Share of a sine whose phase a second sine at 3.5 times the pitch moves: bells and struck glass.</summary>
    public double Bell { get; init; }

    /// <summary>How far the two saws lie apart, in cents.</summary>
    public double DetuneCents { get; init; } = 8;

    /// <summary>Transposition in semitones.</summary>
    public int Semitones { get; init; }

    /// <summary>Seconds to full level.</summary>
    public double AttackSeconds { get; init; } = 0.005;

    /// <summary>Seconds until the decay toward the sustain level has all but ended.</summary>
    public double DecaySeconds { get; init; } = 0.4;

    /// <summary>Level held while the key is down, 0 to 1.</summary>
    public double Sustain { get; init; } = 0.6;

    /// <summary>Seconds until a let-go note has fallen by 60 dB.</summary>
    public double ReleaseSeconds { get; init; } = 0.3;

    /// <summary>Low-pass cutoff in hertz with the envelope closed.</summary>
    public double CutoffHz { get; init; } = 1500;

    /// <summary>How many octaves the open envelope lifts the cutoff.</summary>
    public double CutoffOctaves { get; init; } = 1.5;

    /// <summary>Level, 0 to 1.</summary>
    public double Level { get; init; } = 0.25;

    /// <summary>About what one note peaks at when played as hard as can be, 1 for full scale.</summary>
    public double Peak => Level * (0.8 * Saw + Sine + Bell);

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) =>
    [
        .. Core.Misfits.Unless(new[] { Saw, Sine, Bell, Sustain, Level }.All(DrumPatch.Levels.Hold), place, $"levels go from {DrumPatch.Levels}."),
        .. Core.Misfits.Unless(DrumPatch.Hertz.Hold(CutoffHz) && CutoffOctaves is >= 0 and <= 10, place, $"the filter goes from {DrumPatch.Hertz} Hz and opens by 0 to 10 octaves."),
        .. Core.Misfits.Unless(AttackSeconds is >= 0 and <= 60 && DecaySeconds is >= 0 and <= 60 && ReleaseSeconds is >= 0 and <= 60, place, "it rises, falls and rings for 0 to 60 seconds."),
        .. Core.Misfits.Unless(DetuneCents is >= 0 and <= 100 && Semitones is >= -48 and <= 48, place, "it is detuned by 0 to 100 cents and stands -48 to 48 semitones away."),
    ];
}

using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Splits;

/// <summary>How a voice is shaped in this session.</summary>
/// <param name="VoiceId">The voice of the chart.</param>
public sealed record UnitVoice(VoiceId VoiceId)
{
    /// <summary>Semitones up or down.</summary>
    public double TuneSemitones { get; init; }

    /// <summary>Decay as a multiple of the chart's.</summary>
    public double DecayScale { get; init; } = 1;

    /// <summary>Level in dB, before everything else.</summary>
    public Decibels LevelDb { get; init; }

    /// <summary>How far a voice can be tuned, in semitones.</summary>
    public static Limits<double> Tunes => new(-24, 24);

    /// <summary>How much shorter or longer it can ring.</summary>
    public static Limits<double> Decays => new(0.1, 4);

    /// <summary>How loud it can be made.</summary>
    public static Limits<Decibels> Levels => new(new(-60), new(12));

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place) => Core.Misfits.Unless(
        Tunes.Hold(TuneSemitones) && Decays.Hold(DecayScale) && Levels.Hold(LevelDb),
        place,
        "Tune goes from -24 to +24 semitones, decay from 0.1 to 4 times, level from -60 to +12 dB.");
}

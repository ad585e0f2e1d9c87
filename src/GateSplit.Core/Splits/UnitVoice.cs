namespace GateSplit.Core.Splits;

/// <summary>How a voice is shaped in this session.</summary>
/// <param name="VoiceId">The voice of the chart.</param>
public sealed record UnitVoice(string VoiceId)
{
    /// <summary>Semitones up or down.</summary>
    public double TuneSemitones { get; init; }

    /// <summary>Decay as a multiple of the chart's.</summary>
    public double DecayScale { get; init; } = 1;

    /// <summary>Level in dB, before everything else.</summary>
    public double LevelDb { get; init; }
}

using System.Text.Json.Serialization;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>What an element hears of a voice.</summary>
/// <param name="VoiceId">The voice.</param>
[method: JsonConstructor]
public sealed record Hearing(VoiceId VoiceId)
{
    /// <summary>What an element hears of a voice.</summary>
    public Hearing(VoiceId voiceId, Decibels gainDb, double metres = 0, Pan pan = default, bool bleed = false)
        : this(voiceId) => (GainDb, Metres, Pan, Bleed) = (gainDb, metres, pan, bleed);

    /// <summary>How far away it may stand, in metres.</summary>
    public static Limits<double> Distances => new(0, 50);

    /// <summary>At what gain.</summary>
    public Decibels GainDb { get; init; }

    /// <summary>From how far away, which delays it at 343 m/s.</summary>
    public double Metres { get; init; }

    /// <summary>Where a stereo element hears it.</summary>
    public Pan Pan { get; init; }

    /// <summary>True if it is not what the element is meant for, so that the bleed control turns it.</summary>
    public bool Bleed { get; init; }

    /// <summary>True if its amounts are possible.</summary>
    internal bool IsSound => ChartRules.Levels.Hold(GainDb) && Distances.Hold(Metres) && Pan.Limits.Hold(Pan);
}

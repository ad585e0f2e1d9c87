using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Charts;

/// <summary>Something inside a source that notes play.</summary>
/// <param name="Id">Short id, unique in the chart.</param>
/// <param name="Name">Its name on the source.</param>
/// <param name="Channel">MIDI channel, 1 to 16.</param>
/// <param name="Keys">The keys that play it; empty for all keys of the channel.</param>
public sealed record ChartVoice(VoiceId Id, string Name, int Channel, ImmutableArray<int> Keys)
{
    /// <summary>How a stand-in sounds it, if struck.</summary>
    public DrumPatch? Drum { get; init; }

    /// <summary>How a stand-in sounds it, if held.</summary>
    public TonePatch? Tone { get; init; }

    /// <summary>True if a note on a MIDI channel and key plays this voice.</summary>
    public bool Plays(int channel, int key) => channel == Channel && (Keys.IsEmpty || Keys.Contains(key));

    /// <summary>About what it peaks at when played as hard as can be, 1 for full scale.</summary>
    public double Peak => Drum?.Peak ?? Tone?.Peak ?? 0;

    /// <summary>Seconds it rings after its last note ends.</summary>
    public double RingSeconds => Drum?.LongestDecaySeconds ?? Tone?.ReleaseSeconds ?? 0;

    /// <summary>How long a voice may ring after its last note ends, in seconds.</summary>
    public static Limits<double> Rings => new(0, 60);

    /// <summary>What in it does not fit.</summary>
    internal IEnumerable<Misfit> Misfits(string place)
    {
        if (!Names.Fit(Id.Value) || !Names.Fit(Name) || Channel is < 1 or > 16 || Keys.IsDefault || Keys.Length > 128 || Keys.Any(k => k is < 0 or > 127))
        {
            return [new Misfit(place, "an id, a name, a MIDI channel from 1 to 16 and keys from 0 to 127 are needed.")];
        }

        return
        [
            .. Core.Misfits.Unless(Rings.Hold(RingSeconds), place, $"a voice rings for {Rings} seconds."),
            .. Drum?.Misfits($"{place}.drum") ?? [],
            .. Tone?.Misfits($"{place}.tone") ?? [],
        ];
    }
}

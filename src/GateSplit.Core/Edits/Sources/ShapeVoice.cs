using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Tunes a voice, changes its decay and its level.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="Voice">The new shape.</param>
public sealed record ShapeVoice(string UnitId, UnitVoice Voice) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) =>
        $"Shape {split.Unit(UnitId)?.Chart.Voices.FirstOrDefault(v => v.Id == Voice.VoiceId)?.Name ?? "a voice"}";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split)
    {
        if (split.Unit(UnitId) is not { } unit || unit.Voices.All(v => v.VoiceId != Voice.VoiceId))
        {
            return new Refusal("This voice is not in the split any more.");
        }

        if (Voice is not { TuneSemitones: >= -24 and <= 24, DecayScale: >= 0.1 and <= 4, LevelDb: >= -60 and <= 12 })
        {
            return new Refusal("Tune goes from -24 to +24 semitones, decay from 0.1 to 4 times, level from -60 to +12 dB.");
        }

        return split.With(unit with { Voices = [.. unit.Voices.Select(v => v.VoiceId == Voice.VoiceId ? Voice : v)] });
    }
}

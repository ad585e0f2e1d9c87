using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Tunes a voice, changes its decay and its level.</summary>
/// <param name="UnitId">The unit.</param>
/// <param name="Voice">The new shape.</param>
public sealed record ShapeVoice(UnitId UnitId, UnitVoice Voice) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) =>
        $"Shape {split.Unit(UnitId)?.Chart.Voices.FirstOrDefault(v => v.Id == Voice.VoiceId)?.Name ?? "a voice"}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split)
    {
        if (split.Unit(UnitId) is not { } unit || unit.Voices.All(v => v.VoiceId != Voice.VoiceId))
        {
            return new Refusal("This voice is not in the split any more.");
        }

        return split.With(unit with { Voices = [.. unit.Voices.Select(v => v.VoiceId == Voice.VoiceId ? Voice : v)] });
    }
}

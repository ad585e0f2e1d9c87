using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>What a sound file says of itself.</summary>
/// <param name="Format">The shape of its samples.</param>
/// <param name="Frames">Their number for each channel; null if the file does not say.</param>
/// <param name="Remarks">Damage that shows before the samples are read.</param>
public sealed record SoundFileShape(AudioFormat Format, Frames? Frames, ImmutableArray<string> Remarks)
{
    /// <summary>What it takes as a WAVE file; null if the file does not say.</summary>
    public Bytes? WaveBytes => Frames is { } frames ? Format.Bytes(frames) : null;
}

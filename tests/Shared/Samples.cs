using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Tests.Shared;

/// <summary>A sound in memory, with nothing before and behind it.</summary>
/// <param name="samples">Its samples.</param>
/// <param name="rate">Its sample rate.</param>
public sealed class Samples(float[] samples, int rate = 48000) : IMonoSound
{
    /// <inheritdoc/>
    public Frames Frames => samples.Length;

    /// <inheritdoc/>
    public SampleRate Rate => rate;

    /// <inheritdoc/>
    public void Read(long start, Span<float> into)
    {
        into.Clear();
        var (first, end) = (Math.Max(0, start), Math.Min(samples.Length, start + into.Length));
        if (end > first)
        {
            samples.AsSpan((int)first, (int)(end - first)).CopyTo(into[(int)(first - start)..]);
        }
    }
}

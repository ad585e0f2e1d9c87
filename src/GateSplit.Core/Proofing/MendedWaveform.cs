using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Proofing;

/// <summary>A mended file as it is drawn. From afar it is the printed one's waveform in its new place and size (of a mean of two sides, what it can reach at most); from near its samples are those that are made.</summary>
/// <param name="printed">The printed file.</param>
/// <param name="plan">What becomes of it.</param>
/// <param name="mended">The mended file.</param>
public sealed class MendedWaveform(IWaveform printed, RenderPlan plan, MendedRecording mended) : IWaveform
{
    /// <inheritdoc/>
    public int Channels => plan.Gains.Length;

    /// <inheritdoc/>
    public Frames Frames => plan.Frames;

    /// <inheritdoc/>
    public (float Low, float High)[] Columns(int channel, double start, double frames, int columns)
    {
        var result = new (float Low, float High)[columns];
        foreach (var (gain, source) in plan.Gains[channel].Select((g, c) => ((float)g, c)).Where(g => g.Item1 != 0))
        {
            var taken = printed.Columns(source, plan.Start + start * plan.Step, frames * plan.Step, columns);
            for (var i = 0; i < columns; i++)
            {
                var (one, other) = (taken[i].Low * gain, taken[i].High * gain);
                result[i] = (result[i].Low + Math.Min(one, other), result[i].High + Math.Max(one, other));
            }
        }

        for (var i = 0; i < columns; i++)
        {
            if (start + frames * (i + 1) / columns <= 0 || start + frames * i / columns >= plan.Frames.Count)
            {
                result[i] = (0, 0);
            }
        }

        return result;
    }

    /// <inheritdoc/>
    public void Samples(int channel, long start, Span<float> into) => new MonoReader(mended, channel).Read(start, into);
}

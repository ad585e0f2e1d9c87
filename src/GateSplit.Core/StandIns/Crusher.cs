using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>One channel of an element's own effect.</summary>
/// <param name="patch">How it is set.</param>
/// <param name="sampleRate">Frames a second.</param>
internal sealed class Crusher(InsertPatch patch, SampleRate sampleRate)
{
    private readonly double _step = patch.HoldHz is { } hertz ? Math.Min(1, hertz / sampleRate) : 1;
    private readonly float _levels = patch.Bits is { } bits ? 1 << (bits - 1) : 0;
    private double _phase = 1;
    private float _held;

    /// <summary>Crushes samples in place.</summary>
    public void Process(Span<float> samples)
    {
        var (phase, held) = (_phase, _held);
        foreach (ref var sample in samples)
        {
            if (phase >= 1)
            {
                phase -= 1;
                held = _levels > 0 ? MathF.Round(sample * _levels) / _levels : sample;
            }

            phase += _step;
            sample = held;
        }

        (_phase, _held) = (phase, held);
        Drive.Apply(samples, (float)patch.Drive);
    }
}

using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>
/// The effects on a main mix: a one-pole low-pass, a compressor that follows the louder side's peak, a drive. The
/// compressor's gain above its threshold is (threshold / peak)^(1 - 1/ratio) (Giannoulis, Massberg and Reiss, "Digital
/// dynamic range compressor design", JAES 60 (2012)); for the ratios offered, that is roots only, the same on every machine.
/// </summary>
internal sealed class Master
{
    private const double AttackSeconds = 0.004;
    private const double ReleaseSeconds = 0.16;

    private readonly MasterPatch _patch;
    private readonly float _threshold;
    private readonly float _attack;
    private readonly float _release;
    private readonly float _filter;
    private readonly float[] _last = new float[2];
    private float _peak;

    /// <summary>Makes the effects at rest.</summary>
    public Master(MasterPatch patch, SampleRate sampleRate)
    {
        _patch = patch;
        _threshold = (float)patch.ThresholdDb.Ratio;
        _attack = 1 - (float)Maths.DecayFactor(AttackSeconds, sampleRate);
        _release = 1 - (float)Maths.DecayFactor(ReleaseSeconds, sampleRate);
        _filter = patch.LowPassHz is { } hertz ? (float)(1 - Maths.OnePoleShare(hertz, sampleRate)) : 1;
    }

    /// <summary>Processes a block in place.</summary>
    /// <param name="left">Left.</param>
    /// <param name="right">Right; the same as left for a main output of one channel.</param>
    public void Process(Span<float> left, Span<float> right)
    {
        if (_filter < 1)
        {
            Filter(left, ref _last[0]);
            if (!left.Overlaps(right))
            {
                Filter(right, ref _last[1]);
            }
        }

        if (_patch.Ratio > 1)
        {
            Compress(left, right);
        }

        Drive.Apply(left, (float)_patch.Drive);
        if (!left.Overlaps(right))
        {
            Drive.Apply(right, (float)_patch.Drive);
        }
    }

    private void Filter(Span<float> samples, ref float last)
    {
        foreach (ref var sample in samples)
        {
            last += (sample - last) * _filter;
            sample = last;
        }
    }

    private void Compress(Span<float> left, Span<float> right)
    {
        for (var i = 0; i < left.Length; i++)
        {
            var now = MathF.Max(MathF.Abs(left[i]), MathF.Abs(right[i]));
            _peak += (now - _peak) * (now > _peak ? _attack : _release);
            if (_peak <= _threshold)
            {
                continue;
            }

            var root = MathF.Sqrt(_threshold / _peak);
            var gain = _patch.Ratio == 2 ? root : root * MathF.Sqrt(root);
            left[i] *= gain;
            if (!left.Overlaps(right))
            {
                right[i] *= gain;
            }
        }
    }
}

using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>The floor of one channel, fed in blocks of any size: the level under which a tenth of its 50 ms stretches lie.</summary>
/// <param name="rate">Frames a second.</param>
public sealed class FloorMeter(SampleRate rate)
{
    private const int StretchesASecond = 20;
    private const double Share = 0.1;
    private readonly LevelHistogram _stretches = new();
    private long _frames;
    private long _stretch;
    private double _squares;

    /// <summary>Takes the next samples in.</summary>
    public void Add(ReadOnlySpan<float> samples)
    {
        while (!samples.IsEmpty)
        {
            var end = (_stretch + 1) * rate.Hz / StretchesASecond;
            var part = samples[..(int)Math.Min(samples.Length, end - _frames)];
            _squares += TensorPrimitives.SumOfSquares(part);
            samples = samples[part.Length..];
            _frames += part.Length;
            if (_frames == end)
            {
                _stretches.Add(_squares / (end - _stretch * rate.Hz / StretchesASecond));
                _squares = 0;
                _stretch++;
            }
        }
    }

    /// <summary>What was measured so far; null for less than one stretch, silence where nothing at all was there.</summary>
    public Decibels? Result() => _stretches.Percentile(Share) is var level && double.IsNaN(level) ? null : new Decibels(level);
}

using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Tells how loud one channel still is where its file ends, and already where it begins, fed in blocks of any size.</summary>
/// <param name="rate">Frames a second.</param>
public sealed class EndMeter(SampleRate rate)
{
    private const int Part = 100; // of a second: 10 ms
    private readonly float[] _last = new float[rate.Hz / Part];
    private double _first;
    private long _frames;

    /// <summary>Takes the next samples in.</summary>
    public void Add(ReadOnlySpan<float> samples)
    {
        var begin = (int)Math.Clamp(_last.Length - _frames, 0, samples.Length);
        _first += TensorPrimitives.SumOfSquares(samples[..begin]);
        _frames += samples.Length;
        if (samples.Length >= _last.Length)
        {
            samples[^_last.Length..].CopyTo(_last);
            return;
        }

        _last.AsSpan(samples.Length).CopyTo(_last);
        samples.CopyTo(_last.AsSpan(_last.Length - samples.Length));
    }

    /// <summary>RMS of the first 10 ms.</summary>
    public Decibels First => Decibels.FromRatio(Math.Sqrt(_first / Math.Max(1, Math.Min(_frames, _last.Length))));

    /// <summary>RMS of the last 10 ms.</summary>
    public Decibels Last => Decibels.FromRatio(Math.Sqrt(TensorPrimitives.SumOfSquares<float>(_last) / Math.Max(1, Math.Min(_frames, _last.Length))));
}

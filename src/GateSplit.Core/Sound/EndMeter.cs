using System.Numerics.Tensors;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Tells how loud one channel still is where its file ends, and already where it begins, fed in blocks of any size.</summary>
/// <param name="rate">Frames a second.</param>
public sealed class EndMeter(SampleRate rate)
{
    private const int Part = 100; // of a second: 10 ms
    private const int Shortest = 5; // of that part: 2 ms, in which a hit that breaks off at once is heard
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

    /// <summary>RMS of the last 10 ms, or of the last 2 ms where that is more.</summary>
    public Decibels Last => Of(_last.Length) is var whole && Of(_last.Length / Shortest) is var end && end > whole ? end : whole;

    private Decibels Of(int frames) => Decibels.FromRatio(Math.Sqrt(TensorPrimitives.SumOfSquares<float>(_last.AsSpan(^frames..)) / Math.Max(1, Math.Min(_frames, frames))));
}

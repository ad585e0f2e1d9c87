using System.Numerics.Tensors;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// The true peak of one channel, fed in blocks of any size: the highest of the samples and of three places between each two, found with a
/// windowed sinc (ITU-R BS.1770-4, annex 2, which asks for at least four times the samples at 48 kHz).
/// </summary>
public sealed class TruePeakMeter
{
    private const int Phases = 4;
    private const int Taps = 24;
    private const double Beta = 5; // Kaiser's window: even within 0.1 dB up to 0.85 of the Nyquist frequency
    private const int Chunk = 64;
    private static readonly float[][] Filters = [.. Enumerable.Range(1, Phases - 1).Select(Phase)];
    private static readonly float Bound = Filters.Max(f => f.Sum(Math.Abs));
    private readonly float[] _window = new float[Taps - 1 + Chunk];
    private int _held = Taps - 1;
    private float _peak;

    /// <summary>Ends it, and says what was found, in dBTP; silence for none.</summary>
    public Decibels Finish()
    {
        // What swings on behind the last sample counts as well.
        Add(new float[Taps]);
        Look();
        return Decibels.FromRatio(_peak);
    }

    /// <summary>Takes the next samples in.</summary>
    public void Add(ReadOnlySpan<float> samples)
    {
        while (!samples.IsEmpty)
        {
            var part = Math.Min(samples.Length, _window.Length - _held);
            samples[..part].CopyTo(_window.AsSpan(_held));
            samples = samples[part..];
            _held += part;
            if (_held == _window.Length)
            {
                Look();
            }
        }
    }

    private void Look()
    {
        _window.AsSpan(_held).Clear();
        var highest = Math.Abs(TensorPrimitives.MaxMagnitude<float>(_window));
        _peak = Math.Max(_peak, highest);

        // Between samples it can rise to the sum of a filter's taps and no higher: most of a file need not be looked at.
        if (highest * Bound > _peak)
        {
            foreach (var filter in Filters)
            {
                _peak = Math.Max(_peak, Highest(filter));
            }
        }

        _window.AsSpan(_held - Taps + 1, Taps - 1).CopyTo(_window);
        _held = Taps - 1;
    }

    private float Highest(float[] filter)
    {
        // Four sums side by side, since each waits for itself.
        var width = Vector256<float>.Count;
        ref var window = ref MemoryMarshal.GetArrayDataReference(_window);
        var peaks = Vector256<float>.Zero;
        for (var i = 0; i < Chunk; i += 4 * width)
        {
            Vector256<float> one = default, two = default, three = default, four = default;
            for (var k = 0; k < Taps; k++)
            {
                var tap = Vector256.Create(filter[k]);
                var at = (nuint)(i + k);
                one = Vector256.FusedMultiplyAdd(tap, Vector256.LoadUnsafe(ref window, at), one);
                two = Vector256.FusedMultiplyAdd(tap, Vector256.LoadUnsafe(ref window, at + (nuint)width), two);
                three = Vector256.FusedMultiplyAdd(tap, Vector256.LoadUnsafe(ref window, at + (nuint)(2 * width)), three);
                four = Vector256.FusedMultiplyAdd(tap, Vector256.LoadUnsafe(ref window, at + (nuint)(3 * width)), four);
            }

            peaks = Vector256.MaxNative(peaks, Vector256.MaxNative(Vector256.MaxNative(Vector256.Abs(one), Vector256.Abs(two)), Vector256.MaxNative(Vector256.Abs(three), Vector256.Abs(four))));
        }

        var highest = 0f;
        for (var lane = 0; lane < width; lane++)
        {
            highest = Math.Max(highest, peaks[lane]);
        }

        return highest;
    }

    private static float[] Phase(int phase)
    {
        var taps = new double[Taps];
        for (var k = 0; k < Taps; k++)
        {
            var t = k - (Taps / 2 - 1) - (double)phase / Phases;
            var inside = 1 - t / (Taps / 2.0) * (t / (Taps / 2.0));
            taps[k] = inside <= 0 ? 0 : Kaiser.Sinc(t) * Kaiser.Bessel(Beta * Math.Sqrt(inside));
        }

        var sum = taps.Sum();
        return [.. taps.Select(t => (float)(t / sum))];
    }
}

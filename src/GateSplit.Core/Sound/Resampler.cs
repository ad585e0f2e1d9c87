using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// Another sample rate by a polyphase bank of windowed sincs (Kaiser's window and formula, in Oppenheim and Schafer,
/// "Discrete-Time Signal Processing"): even within 0.01 dB up to 0.9 of the lower Nyquist frequency, and 120 dB down from
/// that frequency on.
/// </summary>
public sealed class Resampler
{
    private static readonly Decibels Stopband = new(130);
    private const double PassbandShare = 0.9;
    private readonly float[][] _phases;
    private readonly long _up;
    private readonly long _down;

    /// <summary>Works the filters out.</summary>
    /// <param name="fromRate">Frames a second of what comes in.</param>
    /// <param name="toRate">Frames a second of what goes out.</param>
    public Resampler(SampleRate fromRate, SampleRate toRate)
    {
        var divisor = Divisor(fromRate.Hz, toRate.Hz);
        (_up, _down) = (toRate.Hz / divisor, fromRate.Hz / divisor);
        var scale = Math.Min(1, (double)toRate.Hz / fromRate.Hz);
        Reach = (int)Math.Ceiling((Stopband.Value - 7.95) / (2.285 * (1 - PassbandShare) * Math.PI * scale) / 2) + 1;
        var cutoff = scale * (1 + PassbandShare) / 2;
        var beta = 0.1102 * (Stopband.Value - 8.7);
        _phases = [.. Enumerable.Range(0, (int)_up).Select(p => Phase((double)p / _up, cutoff, beta))];
    }

    /// <summary>Frames on either side of a place that are needed to work out what is there.</summary>
    public int Reach { get; }

    /// <summary>How many frames so many become.</summary>
    public Frames FramesOf(Frames frames) => new((frames.Count * _up + _down - 1) / _down);

    /// <summary>The first frame that is needed for a stretch of the output, and how many; they may lie outside the input.</summary>
    public (Frames Start, int Frames) Needed(Frames start, int frames)
    {
        var first = Before(start) - Reach + 1;
        return (first, (int)(Before(start + frames - 1) + Reach - first + 1).Count);
    }

    /// <summary>Works out a stretch of one channel.</summary>
    /// <param name="start">Its first frame.</param>
    /// <param name="input">What <see cref="Needed"/> says, with zeros outside the input.</param>
    /// <param name="into">Receives it.</param>
    public void Fill(Frames start, ReadOnlySpan<float> input, Span<float> into)
    {
        var (first, _) = Needed(start, into.Length);
        for (var i = 0; i < into.Length; i++)
        {
            var (place, phase) = Math.DivRem((start.Count + i) * _down, _up);
            into[i] = Dot(input[(int)(place - Reach + 1 - first.Count)..], _phases[phase]);
        }
    }

    /// <summary>The frame of the input at or before one of the output.</summary>
    private Frames Before(Frames frame) => new(frame.Count * _down / _up);

    /// <summary>The taps for a place so far behind a frame: the frames from Reach - 1 before it to Reach behind it.</summary>
    private float[] Phase(double behind, double cutoff, double beta)
    {
        var taps = new double[2 * Reach];
        for (var k = 0; k < taps.Length; k++)
        {
            var t = k - Reach + 1 - behind;
            var inside = 1 - t / Reach * (t / Reach);
            taps[k] = inside <= 0 ? 0 : Kaiser.Sinc(cutoff * t) * Kaiser.Bessel(beta * Math.Sqrt(inside));
        }

        // Every phase lets what stands still through as it is.
        var sum = taps.Sum();
        return [.. taps.Select(t => (float)(t / sum)), .. new float[(8 - taps.Length % 8) % 8]];
    }

    private static float Dot(ReadOnlySpan<float> input, float[] taps)
    {
        var sums = Vector256<float>.Zero;
        var groups = MemoryMarshal.Cast<float, Vector256<float>>(taps);
        var whole = Math.Min(groups.Length, input.Length / 8);
        var samples = MemoryMarshal.Cast<float, Vector256<float>>(input[..(8 * whole)]);
        for (var i = 0; i < whole; i++)
        {
            sums += groups[i] * samples[i];
        }

        var sum = Vector256.Sum(sums);
        for (var i = 8 * whole; i < Math.Min(taps.Length, input.Length); i++)
        {
            sum += taps[i] * input[i];
        }

        return sum;
    }

    private static int Divisor(int a, int b) => b == 0 ? a : Divisor(b, a % b);
}

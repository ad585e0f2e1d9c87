using System.Numerics;
using System.Runtime.InteropServices;

namespace GateSplit.Core.StandIns;

/// <summary>
/// A stereo reverb: eight delay lines that feed each other through a Hadamard matrix, each with a damping low-pass and
/// a gain that gives the wanted decay (Jot and Chaigne, "Digital delay networks for designing artificial
/// reverberators", AES 90 (1991)). Every delay is longer than a chunk, so a chunk of all lines is computed at once.
/// </summary>
internal sealed class Reverb : IReturnEffect
{
    private const int Lines = 8;
    private const int Chunk = 1024;
    private const float Damping = 0.22f;
    private const float Send = 0.5f;
    private const float Level = 0.6f;
    private const float Normal = 0.35355339f; // 1 / sqrt 8 makes the matrix keep energy
    private static readonly double[] Milliseconds = [29.7, 33.1, 37.9, 41.3, 47.7, 53.9, 59.3, 67.1];

    private readonly float[][] _delays = new float[Lines][];
    private readonly float[][] _taps = new float[Lines][];
    private readonly int[] _places = new int[Lines];
    private readonly float[] _gains = new float[Lines];
    private readonly float[] _last = new float[Lines];

    /// <summary>Makes a reverb at rest.</summary>
    /// <param name="decaySeconds">Seconds until it has fallen by 60 dB.</param>
    /// <param name="sampleRate">Frames a second, at least 44100.</param>
    public Reverb(double decaySeconds, int sampleRate)
    {
        for (var i = 0; i < Lines; i++)
        {
            _delays[i] = new float[(int)(Milliseconds[i] / 1000 * sampleRate) | 1];
            _taps[i] = new float[Chunk];
            _gains[i] = (float)Maths.Exp2(-9.965784284662087 * _delays[i].Length / (decaySeconds * sampleRate));
        }
    }

    /// <inheritdoc/>
    public void Process(ReadOnlySpan<float> inLeft, ReadOnlySpan<float> inRight, Span<float> outLeft, Span<float> outRight)
    {
        for (var at = 0; at < inLeft.Length; at += Chunk)
        {
            var frames = Math.Min(Chunk, inLeft.Length - at);
            ProcessChunk(inLeft.Slice(at, frames), inRight.Slice(at, frames), outLeft.Slice(at, frames), outRight.Slice(at, frames));
        }
    }

    private void ProcessChunk(ReadOnlySpan<float> inLeft, ReadOnlySpan<float> inRight, Span<float> outLeft, Span<float> outRight)
    {
        var frames = inLeft.Length;
        bool left = false, right = false;
        for (var i = 0; i < Lines; i++)
        {
            var taps = _taps[i].AsSpan(0, frames);
            ReadRing(i, taps);
            Mixing.Sum((i & 1) == 0 ? outLeft : outRight, taps, Level, ref (i & 1) == 0 ? ref left : ref right);
            Damp(taps, ref _last[i], _gains[i] * Normal);
        }

        for (var step = 1; step < Lines; step *= 2)
        {
            for (var i = 0; i < Lines; i++)
            {
                if ((i & step) == 0)
                {
                    SumAndDifference(_taps[i].AsSpan(0, frames), _taps[i + step].AsSpan(0, frames));
                }
            }
        }

        for (var i = 0; i < Lines; i++)
        {
            var taps = _taps[i].AsSpan(0, frames);
            Mixing.AddScaled(taps, (i & 1) == 0 ? inLeft : inRight, Send);
            WriteRing(i, taps);
        }
    }

    /// <summary>The mean of a sample and the one before it, weighted: a low-pass without feedback, and the line's gain.</summary>
    private static void Damp(Span<float> samples, ref float last, float gain)
    {
        var before = last;
        last = samples[^1];

        // From the end, so that every sample is still there when the one after it needs it.
        var at = samples.Length - Vector<float>.Count;
        for (; at > 0; at -= Vector<float>.Count)
        {
            var now = new Vector<float>(samples[at..]);
            var previous = new Vector<float>(samples[(at - 1)..]);
            ((now * (1 - Damping) + previous * Damping) * gain).CopyTo(samples[at..]);
        }

        for (var i = at + Vector<float>.Count - 1; i >= 0; i--)
        {
            samples[i] = (samples[i] * (1 - Damping) + (i > 0 ? samples[i - 1] : before) * Damping) * gain;
        }
    }

    private static void SumAndDifference(Span<float> a, Span<float> b)
    {
        var va = MemoryMarshal.Cast<float, Vector<float>>(a);
        var vb = MemoryMarshal.Cast<float, Vector<float>>(b);
        for (var i = 0; i < va.Length; i++)
        {
            (va[i], vb[i]) = (va[i] + vb[i], va[i] - vb[i]);
        }

        for (var i = va.Length * Vector<float>.Count; i < a.Length; i++)
        {
            (a[i], b[i]) = (a[i] + b[i], a[i] - b[i]);
        }
    }

    private void ReadRing(int line, Span<float> into)
    {
        var ring = _delays[line].AsSpan();
        var first = Math.Min(into.Length, ring.Length - _places[line]);
        ring.Slice(_places[line], first).CopyTo(into);
        ring[..(into.Length - first)].CopyTo(into[first..]);
    }

    private void WriteRing(int line, ReadOnlySpan<float> from)
    {
        var ring = _delays[line].AsSpan();
        var first = Math.Min(from.Length, ring.Length - _places[line]);
        from[..first].CopyTo(ring[_places[line]..]);
        from[first..].CopyTo(ring);
        _places[line] = (_places[line] + from.Length) % ring.Length;
    }
}

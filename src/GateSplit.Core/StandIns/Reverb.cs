using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>
/// A stereo reverb: eight delay lines that feed each other through a Hadamard matrix, each with a damping low-pass and
/// a gain that gives the wanted decay (Jot and Chaigne, "Digital delay networks for designing artificial
/// reverberators", AES 90 (1991)). Every delay is longer than a chunk, so a chunk of all lines is computed at once.
/// </summary>
internal sealed class Reverb : IReturnEffect
{
    private const int Lines = 8;
    private const int Chunk = 256; // so that the taps stay in the first cache
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
    public Reverb(double decaySeconds, SampleRate sampleRate)
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
            var delayed = Delayed(i, taps);
            Mixing.Sum((i & 1) == 0 ? outLeft : outRight, delayed, Level, ref (i & 1) == 0 ? ref left : ref right);
            Damp(delayed, taps, ref _last[i], _gains[i] * Normal);
        }

        Turn(frames, inLeft, inRight);
        for (var i = 0; i < Lines; i++)
        {
            WriteRing(i, _taps[i].AsSpan(0, frames));
        }
    }

    /// <summary>The taps through the matrix, and what goes in added to them.</summary>
    private void Turn(int frames, ReadOnlySpan<float> inLeft, ReadOnlySpan<float> inRight)
    {
        var at = 0;
        for (; at + Lanes.Count <= frames; at += Lanes.Count)
        {
            TurnGroup(at, Vector256.Create(inLeft[at..]), Vector256.Create(inRight[at..]));
        }

        if (at < frames)
        {
            Span<float> left = stackalloc float[Lanes.Count], right = stackalloc float[Lanes.Count];
            left.Clear();
            right.Clear();
            inLeft[at..].CopyTo(left);
            inRight[at..].CopyTo(right);
            TurnGroup(at, Vector256.Create<float>(left), Vector256.Create<float>(right));
        }
    }

    /// <summary>Eight samples of all lines: the matrix is three rounds of sums and differences.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private void TurnGroup(int at, Vector256<float> inLeft, Vector256<float> inRight)
    {
        Span<float> a = _taps[0], b = _taps[1], c = _taps[2], d = _taps[3], e = _taps[4], f = _taps[5], g = _taps[6], h = _taps[7];
        Vector256<float> va = At(a, at), vb = At(b, at), vc = At(c, at), vd = At(d, at), ve = At(e, at), vf = At(f, at), vg = At(g, at), vh = At(h, at);
        (va, vb, vc, vd) = (va + vb, va - vb, vc + vd, vc - vd);
        (ve, vf, vg, vh) = (ve + vf, ve - vf, vg + vh, vg - vh);
        (va, vb, vc, vd) = (va + vc, vb + vd, va - vc, vb - vd);
        (ve, vf, vg, vh) = (ve + vg, vf + vh, ve - vg, vf - vh);
        var (left, right) = (inLeft * Send, inRight * Send);
        (va + ve + left).CopyTo(a[at..]);
        (vb + vf + right).CopyTo(b[at..]);
        (vc + vg + left).CopyTo(c[at..]);
        (vd + vh + right).CopyTo(d[at..]);
        (va - ve + left).CopyTo(e[at..]);
        (vb - vf + right).CopyTo(f[at..]);
        (vc - vg + left).CopyTo(g[at..]);
        (vd - vh + right).CopyTo(h[at..]);

        static Vector256<float> At(ReadOnlySpan<float> samples, int at) => Vector256.Create(samples[at..]);
    }

    /// <summary>The mean of a sample and the one before it, weighted: a low-pass without feedback, and the line's gain.</summary>
    /// <param name="from">Samples.</param>
    /// <param name="into">As many; may be the same.</param>
    /// <param name="last">The sample before the first; set to the last one.</param>
    /// <param name="gain">The gain.</param>
    private static void Damp(ReadOnlySpan<float> from, Span<float> into, ref float last, float gain)
    {
        var before = last;
        last = from[^1];

        // From the end, so that every sample is still there when the one after it needs it.
        var at = from.Length - Vector<float>.Count;
        for (; at > 0; at -= Vector<float>.Count)
        {
            var now = new Vector<float>(from[at..]);
            var previous = new Vector<float>(from[(at - 1)..]);
            ((now * (1 - Damping) + previous * Damping) * gain).CopyTo(into[at..]);
        }

        for (var i = at + Vector<float>.Count - 1; i >= 0; i--)
        {
            into[i] = (from[i] * (1 - Damping) + (i > 0 ? from[i - 1] : before) * Damping) * gain;
        }
    }

    /// <summary>What comes out of a line: its ring itself, or a copy where it begins again meanwhile.</summary>
    private ReadOnlySpan<float> Delayed(int line, Span<float> space)
    {
        var ring = _delays[line].AsSpan(_places[line]);
        if (ring.Length >= space.Length)
        {
            return ring[..space.Length];
        }

        ring.CopyTo(space);
        _delays[line].AsSpan(0, space.Length - ring.Length).CopyTo(space[ring.Length..]);
        return space;
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

using System.Collections.Immutable;
using System.Numerics.Tensors;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// Finds clicks in one channel, fed in blocks of any size: places where the third difference of a sound leaps far above what it is on both sides,
/// and the sound is no louder behind it than before. What begins with a leap, as struck things do, is none, nor are the steps of a sound that has
/// many, as one of few bits.
/// </summary>
public sealed class ClickMeter
{
    /// <summary>Places that are kept; more are only counted.</summary>
    public const int MostKept = 4096;

    private const int About = 2048; // frames on either side that are kept
    private const int Near = 256; // of these, how many are looked at for a spike
    private const int Own = 6; // frames that belong to the leap
    private const int Nearest = 16; // frames behind these that are asked first
    private const int LeastBehind = 24; // frames that tell whether a sound goes on
    private const int Chunk = 4096;
    private const float Least = 0.01f; // of full scale
    private const float StandsOut = 8; // times the highest about it
    private const float SpikeStandsOut = 5;
    private const float Low = 0.25f; // of the height of a spike: lower is where it was before
    private const int MostHigh = 2; // frames
    private const int Width = 3; // frames on either side of a spike in which it is over
    private const double Louder = 4; // times the energy before: something begins
    private const int Apart = 64; // frames: nearer ones are the same click
    private readonly ImmutableArray<Click>.Builder _found = ImmutableArray.CreateBuilder<Click>();
    private readonly float[] _window = new float[2 * About + Chunk];
    private readonly float[] _leaps = new float[2 * About + Chunk];
    private int _held = About; // the sound begins in silence
    private long _start = -About;
    private long _last = long.MinValue / 2;

    /// <summary>How many there are.</summary>
    public long Count { get; private set; }

    /// <summary>Where the first of them are.</summary>
    public ImmutableArray<Click> Found => _found.ToImmutable();

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

    /// <summary>Looks at what is left; nothing may be added after it.</summary>
    public void Finish()
    {
        Look();
        Leaps();
        TakeAll(_held - LeastBehind);
    }

    private void TakeAll(int end)
    {
        var (i, least) = (About, Vector256.Create(Least));
        ref var leaps = ref MemoryMarshal.GetArrayDataReference(_leaps);
        for (; i < end; i++)
        {
            while (i + Vector256<float>.Count <= end && !Vector256.GreaterThanAny(Vector256.LoadUnsafe(ref leaps, (nuint)i), least))
            {
                i += Vector256<float>.Count;
            }

            if (i < end)
            {
                Take(i);
            }
        }
    }

    /// <summary>Looks at all that has enough behind it, and keeps what the next ones need before them.</summary>
    private void Look()
    {
        Leaps();
        var end = _held - About;
        TakeAll(end);

        if (end > About)
        {
            _window.AsSpan(end - About, _held - end + About).CopyTo(_window);
            _start += end - About;
            _held -= end - About;
        }
    }

    private void Take(int at)
    {
        if (_leaps[at] > Least && _start + at - _last > Apart && Leap(at) is { } click)
        {
            _last = click.At.Count;
            Count++;
            if (_found.Count < MostKept)
            {
                _found.Add(click);
            }
        }
    }

    /// <summary>The size of the third difference at each place.</summary>
    private void Leaps()
    {
        ref var window = ref MemoryMarshal.GetArrayDataReference(_window);
        var (i, three) = (3, Vector256.Create(3f));
        for (; i + Vector256<float>.Count <= _held; i += Vector256<float>.Count)
        {
            var (one, two) = (Vector256.LoadUnsafe(ref window, (nuint)(i - 1)), Vector256.LoadUnsafe(ref window, (nuint)(i - 2)));
            Vector256.Abs(Vector256.LoadUnsafe(ref window, (nuint)i) - three * one + three * two - Vector256.LoadUnsafe(ref window, (nuint)(i - 3))).CopyTo(_leaps, i);
        }

        for (; i < _held; i++)
        {
            _leaps[i] = Math.Abs(_window[i] - 3 * _window[i - 1] + 3 * _window[i - 2] - _window[i - 3]);
        }
    }

    private Click? Leap(int at)
    {
        // Where all is rough, those nearest tell already.
        for (var i = Own + 1; i <= Own + Nearest && at + i < _held; i++)
        {
            if (_leaps[at] < SpikeStandsOut * Math.Max(_leaps[at - i], _leaps[at + i]))
            {
                return null;
            }
        }

        if (_leaps[at] < TensorPrimitives.Max<float>(_leaps.AsSpan(at - Own, 2 * Own)))
        {
            return null;
        }

        // The third difference of a spike is highest a sample or two behind it.
        var (before, after) = (Mean(at - Own - Width, Width), Mean(Math.Min(at + Width, _held - Width), Width));
        var (line, top) = ((before + after) / 2, at);
        for (var i = at - Width; i < at; i++)
        {
            top = Math.Abs(_window[i] - line) > Math.Abs(_window[top] - line) ? i : top;
        }

        var height = Math.Abs(_window[top] - line);
        var high = 0;
        for (var i = top - Width; i <= Math.Min(top + Width, _held - 1); i++)
        {
            high += Math.Abs(_window[i] - line) > Low * height ? 1 : 0;
        }

        var spike = high <= MostHigh;
        var (reach, times) = spike ? (Near, SpikeStandsOut) : (About, StandsOut);
        var earlier = TensorPrimitives.Max<float>(_leaps.AsSpan(at - reach + Width, reach - Own - Width));
        var later = TensorPrimitives.Max<float>(_leaps.AsSpan(at + Own, Math.Min(reach, _held - at) - Own));
        if (_leaps[at] < times * Math.Max(earlier, later))
        {
            return null;
        }

        var quiet = TensorPrimitives.SumOfSquares<float>(_window.AsSpan(at - Near, Near - Own));
        var loud = TensorPrimitives.SumOfSquares<float>(_window.AsSpan(at + Own, Math.Min(Near, _held - at) - Own));
        return loud <= Louder * quiet || loud < height * height ? new(new Frames(_start + (spike ? top : at)), spike) : null;
    }

    private float Mean(int from, int count) => TensorPrimitives.Sum(_window.AsSpan(from, count)) / count;
}

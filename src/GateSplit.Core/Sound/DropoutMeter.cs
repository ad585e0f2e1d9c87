using System.Collections.Immutable;
using System.Numerics.Tensors;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// Finds where one channel was lost for a moment inside a sound, fed in blocks of any size: runs of exact zeros that begin and end at once, and
/// buffers that stand there twice, bit for bit, in the sizes that drivers use.
/// </summary>
/// <param name="rate">The sample rate.</param>
public sealed class DropoutMeter(SampleRate rate)
{
    /// <summary>Places that are kept; more are only counted.</summary>
    public const int MostKept = 100;

    private const int LeastZeros = 16;
    private const float Loud = 0.003f; // -50 dBFS: what is about a hole
    private const int History = 8192;
    private const long NoRun = -1;
    private const int Stretch = 512; // frames looked at together for zeros
    private static readonly int[] Buffers = [32, 64, 128, 256, 512, 1024, 2048];
    private readonly int _mostZeros = rate.Hz / 10; // more is a rest
    private readonly int _about = rate.Hz / 1000; // frames on either side in which it has to be loud
    private readonly ImmutableArray<Dropout>.Builder _found = ImmutableArray.CreateBuilder<Dropout>();
    private readonly List<(long End, int Buffer, long Start)> _ended = [];
    private readonly float[] _window = new float[3 * History]; // what was heard last
    private readonly long[] _runs = [.. Buffers.Select(_ => NoRun)]; // where each run of what is the same as one buffer before began
    private long _start; // the frame of the window's first sample
    private int _held;
    private long _apart; // runs count from here on only: a buffer was told there
    private long _zeros;
    private long _lastLoud = long.MinValue / 2;
    private (long Start, long Length)? _hole;

    /// <summary>How many there are.</summary>
    public long Count { get; private set; }

    /// <summary>The first of them, in order.</summary>
    public ImmutableArray<Dropout> Found => [.. _found.OrderBy(d => d.Start)];

    /// <summary>Takes the next samples in.</summary>
    public void Add(ReadOnlySpan<float> samples)
    {
        while (!samples.IsEmpty)
        {
            if (_held == _window.Length)
            {
                _window.AsSpan(_held - History).CopyTo(_window);
                _start += _held - History;
                _held = History;
            }

            var part = Math.Min(samples.Length, _window.Length - _held);
            samples[..part].CopyTo(_window.AsSpan(_held));
            samples = samples[part..];
            var from = _held;
            _held += part;
            for (var at = from; at < _held; at += Stretch)
            {
                Zeros(at, Math.Min(at + Stretch, _held));
            }

            for (var buffer = 0; buffer < Buffers.Length; buffer++)
            {
                Repeats(buffer, from, _held);
            }

            Tell();
        }
    }

    private void Zeros(int from, int to)
    {
        var part = _window.AsSpan(from, to - from);
        if (!part.ContainsAnyExcept(0f))
        {
            _zeros += part.Length;
            return;
        }

        // Most of a recording has no zero in it, and then only where it was loud last is of use.
        if (_zeros == 0 && _hole is null && !HasZero(part))
        {
            var loud = part.Length - 1;
            while (loud >= 0 && Math.Abs(part[loud]) < Loud)
            {
                loud--;
            }

            _lastLoud = loud < 0 ? _lastLoud : _start + from + loud;
            return;
        }

        for (var i = 0; i < part.Length; i++)
        {
            Zero(part[i], _start + from + i);
        }
    }

    private static bool HasZero(ReadOnlySpan<float> part)
    {
        var vectors = MemoryMarshal.Cast<float, Vector256<float>>(part);
        foreach (var vector in vectors)
        {
            if (Vector256.EqualsAny(vector, Vector256<float>.Zero))
            {
                return true;
            }
        }

        return part[(vectors.Length * Vector256<float>.Count)..].Contains(0f);
    }

    private void Zero(float sample, long at)
    {
        if (sample == 0)
        {
            _zeros++;
            return;
        }

        if (_zeros >= LeastZeros && _zeros <= _mostZeros && at - _zeros - _lastLoud <= _about)
        {
            _hole = (at - _zeros, _zeros);
        }

        _zeros = 0;
        if (_hole is { } hole && at - hole.Start - hole.Length > _about)
        {
            _hole = null;
        }

        if (Math.Abs(sample) < Loud)
        {
            return;
        }

        _lastLoud = at;
        if (_hole is { } lost)
        {
            Keep(new(new Frames(lost.Start), new Frames(lost.Length), false));
            _hole = null;
        }
    }

    /// <summary>What is the same as one buffer before for the length of one buffer, and no longer, was written twice; a tone that fits a buffer goes on.</summary>
    private void Repeats(int buffer, int from, int to)
    {
        var size = Buffers[buffer];
        ref var window = ref MemoryMarshal.GetArrayDataReference(_window);
        var at = (int)Math.Max(from, size - _start);
        for (; at + Vector256<float>.Count <= to; at += Vector256<float>.Count)
        {
            var same = Vector256.Equals(Vector256.LoadUnsafe(ref window, (nuint)at), Vector256.LoadUnsafe(ref window, (nuint)(at - size))).ExtractMostSignificantBits();
            if (same == 0 ? _runs[buffer] == NoRun : same == 0xFF && _runs[buffer] != NoRun)
            {
                continue;
            }

            for (var lane = 0; lane < Vector256<float>.Count; lane++)
            {
                Step(buffer, _start + at + lane, (same >> lane & 1) == 1);
            }
        }

        for (; at < to; at++)
        {
            Step(buffer, _start + at, _window[at] == _window[at - size]);
        }
    }

    private void Step(int buffer, long at, bool isSame)
    {
        if (isSame)
        {
            _runs[buffer] = _runs[buffer] == NoRun ? at : _runs[buffer];
        }
        else if (_runs[buffer] != NoRun)
        {
            if (at - _runs[buffer] >= Buffers[buffer])
            {
                _ended.Add((at, buffer, _runs[buffer]));
            }

            _runs[buffer] = NoRun;
        }
    }

    /// <summary>Tells of the runs that have ended, in the order of time: what was told as one buffer is no second one of another size.</summary>
    private void Tell()
    {
        _ended.Sort();
        foreach (var (end, buffer, start) in _ended)
        {
            var size = Buffers[buffer];
            var run = end - Math.Max(start, _apart);
            if (run >= size && run < size + size / 2 && IsSound(end - run, run))
            {
                Keep(new(new Frames(end - run), new Frames(size), true));
                _apart = end;
            }
        }

        _ended.Clear();
    }

    /// <summary>True where it is loud and goes up and down: what stands still is no buffer.</summary>
    private bool IsSound(long start, long length)
    {
        var part = _window.AsSpan((int)(start - _start), (int)length);
        return TensorPrimitives.Max<float>(part) - TensorPrimitives.Min<float>(part) > Loud;
    }

    private void Keep(Dropout dropout)
    {
        Count++;
        if (_found.Count < MostKept)
        {
            _found.Add(dropout);
        }
    }
}

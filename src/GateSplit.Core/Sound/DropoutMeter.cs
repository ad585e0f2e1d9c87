using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// Finds where one channel was lost for a moment inside a sound, fed in blocks of any size: runs of exact zeros that begin and end at once, and
/// buffers that stand there twice, bit for bit, in the sizes that drivers use.
/// </summary>
public sealed class DropoutMeter
{
    /// <summary>Places that are kept; more are only counted.</summary>
    public const int MostKept = 100;

    private const int LeastZeros = 16;
    private const int MostZeros = 4800; // more is a rest
    private const float Loud = 0.003f; // -50 dBFS: what is about a hole
    private const int About = 48; // frames on either side in which it has to be loud
    private const int History = 8192;
    private static readonly int[] Buffers = [32, 64, 128, 256, 512, 1024, 2048];
    private readonly ImmutableArray<Dropout>.Builder _found = ImmutableArray.CreateBuilder<Dropout>();
    private readonly float[] _history = new float[History];
    private readonly long[] _runs = new long[Buffers.Length];
    private long _at;
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
        foreach (var sample in samples)
        {
            Zeros(sample);
            Repeats(sample);
            _history[_at % History] = sample;
            _at++;
        }
    }

    private void Zeros(float sample)
    {
        if (sample == 0)
        {
            _zeros++;
            return;
        }

        if (_zeros is >= LeastZeros and <= MostZeros && _at - _zeros - _lastLoud <= About)
        {
            _hole = (_at - _zeros, _zeros);
        }

        _zeros = 0;
        if (_hole is { } hole && _at - hole.Start - hole.Length > About)
        {
            _hole = null;
        }

        if (Math.Abs(sample) < Loud)
        {
            return;
        }

        _lastLoud = _at;
        if (_hole is { } lost)
        {
            Keep(new(new Frames(lost.Start), new Frames(lost.Length), false));
            _hole = null;
        }
    }

    /// <summary>What is the same as one buffer before for the length of one buffer, and no longer, was written twice; a tone that fits a buffer goes on.</summary>
    private void Repeats(float sample)
    {
        for (var i = 0; i < Buffers.Length; i++)
        {
            var size = Buffers[i];
            if (_at >= size && sample == _history[(_at - size) % History])
            {
                _runs[i]++;
            }
            else
            {
                if (_runs[i] >= size && _runs[i] < size + size / 2 && IsSound(_at - _runs[i], _runs[i]))
                {
                    Keep(new(new Frames(_at - _runs[i]), new Frames(size), true));
                    Array.Clear(_runs);
                }

                _runs[i] = 0;
            }
        }
    }

    /// <summary>True where it is loud and goes up and down: what stands still is no buffer.</summary>
    private bool IsSound(long start, long length)
    {
        var (lowest, highest) = (float.MaxValue, float.MinValue);
        for (var at = start; at < start + Math.Min(length, History - 1); at++)
        {
            var sample = _history[at % History];
            (lowest, highest) = (Math.Min(lowest, sample), Math.Max(highest, sample));
        }

        return highest - lowest > Loud;
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

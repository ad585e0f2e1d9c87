using System.Collections.Immutable;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Measures one channel fed in blocks of any size; the result does not depend on the blocks.</summary>
public sealed class ChannelMeter
{
    /// <summary>Samples in a row at full scale that count as a clip.</summary>
    public const int ClipLength = 3;

    /// <summary>Clip runs whose place is kept; more are only counted.</summary>
    public const int MostRunsKept = 100;

    private const int Lanes = 8;
    private const float FullScale = 32767f / 32768f;
    private readonly ImmutableArray<ClipRun>.Builder _runs = ImmutableArray.CreateBuilder<ClipRun>();
    private Frames _frames;
    private float _peak;
    private Vector256<double> _sumLow;
    private Vector256<double> _sumHigh;
    private Vector256<double> _squaresLow;
    private Vector256<double> _squaresHigh;
    private long _clippedRuns;
    private Frames _fullScale;
    private Frames _run;

    /// <summary>Takes the next samples in.</summary>
    /// <returns>The highest of them without its sign; 0 for none.</returns>
    public float Add(ReadOnlySpan<float> samples)
    {
        var before = _peak;
        _peak = 0;
        // Sample n always goes into sum n mod 8, so that the sums do not depend on how the samples come in.
        var lead = (int)Math.Min(samples.Length, -_frames.Count & (Lanes - 1));
        AddOneByOne(samples[..lead]);
        var groups = MemoryMarshal.Cast<float, Vector256<float>>(samples[lead..]);
        AddGroups(groups);
        AddOneByOne(samples[(lead + groups.Length * Lanes)..]);
        var highest = _peak;
        _peak = Math.Max(before, highest);
        return highest;
    }

    private void AddGroups(ReadOnlySpan<Vector256<float>> groups)
    {
        while (!groups.IsEmpty)
        {
            var plain = AddPlain(groups);
            if (plain < groups.Length)
            {
                AddOneByOne(MemoryMarshal.Cast<Vector256<float>, float>(groups.Slice(plain++, 1)));
            }

            groups = groups[plain..];
        }
    }

    /// <summary>Adds groups up to the first that is or ends a clip. There is no call in its loop, so that all sums stay in registers.</summary>
    /// <returns>How many were added.</returns>
    private int AddPlain(ReadOnlySpan<Vector256<float>> groups)
    {
        if (_run != 0)
        {
            return 0;
        }

        var full = Vector256.Create(FullScale);
        var peaks = Vector256<float>.Zero;
        Vector256<double> sumLow = _sumLow, sumHigh = _sumHigh, squaresLow = _squaresLow, squaresHigh = _squaresHigh;
        var count = 0;
        for (; count < groups.Length; count++)
        {
            var group = groups[count];
            var size = Vector256.Abs(group);
            if (Vector256.GreaterThanOrEqualAny(size, full))
            {
                break;
            }

            peaks = Vector256.MaxNative(peaks, size);
            var (low, high) = Vector256.Widen(group);
            sumLow += low;
            sumHigh += high;
            squaresLow = Vector256.FusedMultiplyAdd(low, low, squaresLow);
            squaresHigh = Vector256.FusedMultiplyAdd(high, high, squaresHigh);
        }

        _frames += count * Lanes;
        (_sumLow, _sumHigh, _squaresLow, _squaresHigh) = (sumLow, sumHigh, squaresLow, squaresHigh);
        var four = Vector128.MaxNative(peaks.GetLower(), peaks.GetUpper());
        _peak = Math.Max(_peak, Math.Max(Math.Max(four[0], four[1]), Math.Max(four[2], four[3])));
        return count;
    }

    private void AddOneByOne(ReadOnlySpan<float> samples)
    {
        foreach (var sample in samples)
        {
            var lane = (int)(_frames.Count & (Lanes - 1));
            var half = lane & 3;
            if (lane < 4)
            {
                _sumLow = _sumLow.WithElement(half, _sumLow[half] + sample);
                _squaresLow = _squaresLow.WithElement(half, Math.FusedMultiplyAdd(sample, sample, _squaresLow[half]));
            }
            else
            {
                _sumHigh = _sumHigh.WithElement(half, _sumHigh[half] + sample);
                _squaresHigh = _squaresHigh.WithElement(half, Math.FusedMultiplyAdd(sample, sample, _squaresHigh[half]));
            }

            var size = MathF.Abs(sample);
            _peak = Math.Max(_peak, size);
            Count(size, _frames);
            _frames += 1;
        }
    }

    private void Count(float size, Frames frame)
    {
        if (size >= FullScale)
        {
            _run += 1;
        }
        else if (_run != 0)
        {
            EndRun(frame);
        }
    }

    /// <summary>What was measured so far.</summary>
    public ChannelLevels Result()
    {
        if (_run != 0)
        {
            EndRun(_frames);
        }

        var count = Math.Max(1, _frames.Count);
        var squares = Vector256.Sum(_squaresLow + _squaresHigh);
        var sum = Vector256.Sum(_sumLow + _sumHigh);
        return new ChannelLevels(
            Decibels.FromRatio(_peak),
            Decibels.FromRatio(Math.Sqrt(squares / count)),
            sum / count,
            _clippedRuns,
            _runs.ToImmutable(),
            _fullScale);
    }

    private void EndRun(Frames end)
    {
        if (_run >= ClipLength)
        {
            _clippedRuns++;
            if (_runs.Count < MostRunsKept)
            {
                _runs.Add(new ClipRun(end - _run, _run));
            }
        }
        else
        {
            _fullScale += _run;
        }

        _run = 0;
    }
}

using System.Collections.Immutable;

namespace GateSplit.Core.Sound;

/// <summary>Measures one channel fed in blocks of any size; the result does not depend on the blocks.</summary>
public sealed class ChannelMeter
{
    /// <summary>Samples in a row at full scale that count as a clip.</summary>
    public const int ClipLength = 3;

    /// <summary>Clip runs whose place is kept; more are only counted.</summary>
    public const int MostRunsKept = 100;

    private const float FullScale = 32767f / 32768f;
    private readonly ImmutableArray<ClipRun>.Builder _runs = ImmutableArray.CreateBuilder<ClipRun>();
    private long _frames;
    private float _peak;
    private double _sum;
    private double _squares;
    private long _clippedRuns;
    private long _run;

    /// <summary>Takes the next samples in.</summary>
    public void Add(ReadOnlySpan<float> samples)
    {
        var peak = _peak;
        var sum = _sum;
        var squares = _squares;
        for (var i = 0; i < samples.Length; i++)
        {
            var sample = samples[i];
            var size = MathF.Abs(sample);
            sum += sample;
            squares += (double)sample * sample;
            peak = size > peak ? size : peak;
            if (size >= FullScale)
            {
                _run++;
            }
            else if (_run != 0)
            {
                EndRun(_frames + i);
            }
        }

        _peak = peak;
        _sum = sum;
        _squares = squares;
        _frames += samples.Length;
    }

    /// <summary>What was measured so far.</summary>
    public ChannelLevels Result()
    {
        if (_run != 0)
        {
            EndRun(_frames);
        }

        var count = Math.Max(1, _frames);
        return new ChannelLevels(
            Decibels.FromRatio(_peak),
            Decibels.FromRatio(Math.Sqrt(_squares / count)),
            _sum / count,
            _clippedRuns,
            _runs.ToImmutable());
    }

    private void EndRun(long end)
    {
        if (_run >= ClipLength)
        {
            _clippedRuns++;
            if (_runs.Count < MostRunsKept)
            {
                _runs.Add(new ClipRun(end - _run, _run));
            }
        }

        _run = 0;
    }
}

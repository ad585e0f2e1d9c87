using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Follows how loud a file is, in memory that does not grow with it: when it holds <see cref="MostPoints"/>, neighbours are joined and steps are twice as long from there on.</summary>
/// <param name="rate">Frames a second.</param>
/// <param name="loudness">Measures the same samples, and is given each block first.</param>
public sealed class HistoryMeter(SampleRate rate, LoudnessMeter loudness)
{
    /// <summary>Points that are kept at most.</summary>
    public const int MostPoints = 600;

    private const double FirstStep = 0.5; // s
    private readonly List<(float Peak, double? ShortTerm)> _points = [];
    private double _step = FirstStep;
    private long _frames;
    private float _peak;

    /// <summary>A block was heard.</summary>
    /// <param name="peak">Its highest sample without its sign, all channels together.</param>
    /// <param name="frames">Its length; a block belongs to the step in which it ends.</param>
    public void Add(float peak, int frames)
    {
        _frames += frames;
        _peak = Math.Max(_peak, peak);
        while (_frames >= (_points.Count + 1) * _step * rate.Hz)
        {
            _points.Add((_peak, loudness.ShortTerm));
            _peak = 0;
            if (_points.Count == MostPoints)
            {
                Join();
            }
        }
    }

    /// <summary>What was heard so far.</summary>
    public LevelHistory Result() => new(_step, [.. _points.Select(p => new HistoryPoint(Decibels.FromRatio(p.Peak), p.ShortTerm))]);

    private void Join()
    {
        for (var i = 0; i < MostPoints / 2; i++)
        {
            _points[i] = (Math.Max(_points[2 * i].Peak, _points[2 * i + 1].Peak), _points[2 * i + 1].ShortTerm);
        }

        _points.RemoveRange(MostPoints / 2, MostPoints - MostPoints / 2);
        _step *= 2;
    }
}

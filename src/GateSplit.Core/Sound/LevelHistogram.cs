namespace GateSplit.Core.Sound;

/// <summary>Counts powers by level in steps of 0.01 dB, in constant memory; sums within a step are exact.</summary>
internal sealed class LevelHistogram
{
    private const double Lowest = -250; // dB; what lies below counts as this
    private const double Highest = 50;
    private const int Steps = 100; // to one dB
    private readonly long[] _counts = new long[(int)(Highest - Lowest) * Steps];
    private readonly double[] _sums = new double[(int)(Highest - Lowest) * Steps];

    /// <summary>Adds a power.</summary>
    public void Add(double power)
    {
        var step = StepOf(10 * Math.Log10(power));
        _counts[step]++;
        _sums[step] += power;
    }

    /// <summary>How many there are from a level on, and the mean of their powers; 0 of 0 for none.</summary>
    public (long Count, double Mean) From(double level)
    {
        var (count, sum) = (0L, 0.0);
        for (var step = StepOf(level); step < _counts.Length; step++)
        {
            count += _counts[step];
            sum += _sums[step];
        }

        return (count, count == 0 ? 0 : sum / count);
    }

    /// <summary>The level in dB below which a share of those lies that reach a level; NaN for none.</summary>
    /// <param name="share">0 to 1.</param>
    /// <param name="from">In dB.</param>
    public double Percentile(double share, double from = Lowest)
    {
        var wanted = (long)Math.Round((From(from).Count - 1) * share);
        for (var step = StepOf(from); step < _counts.Length; step++)
        {
            wanted -= _counts[step];
            if (wanted < 0)
            {
                return 10 * Math.Log10(_sums[step] / _counts[step]);
            }
        }

        return double.NaN;
    }

    private int StepOf(double level) => Math.Clamp((int)Math.Floor((Math.Max(level, Lowest) - Lowest) * Steps), 0, _counts.Length - 1);
}

namespace GateSplit.Jobs;

/// <summary>One stretch of a longer progress.</summary>
/// <param name="whole">Told the share of the whole.</param>
/// <param name="from">Where the stretch begins, 0 to 1.</param>
/// <param name="to">Where it ends.</param>
internal sealed class Part(IProgress<double> whole, double from, double to) : IProgress<double>
{
    /// <inheritdoc/>
    public void Report(double value) => whole.Report(from + (to - from) * value);
}

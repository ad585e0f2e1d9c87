using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>How loud a file is.</summary>
/// <param name="SamplePeakDbfs">The highest sample peak of its channels; null for silence.</param>
/// <param name="TruePeakDbtp">The highest true peak; null for silence.</param>
/// <param name="RmsDbfs">The highest root mean square of a channel; null for silence.</param>
/// <param name="ClippedRuns">Runs of clipped samples.</param>
/// <param name="FullScale">Samples at full scale beside these; null if they were never counted.</param>
/// <param name="Loudness">Of all channels together.</param>
public sealed record HandoffLevels(Decibels? SamplePeakDbfs, Decibels? TruePeakDbtp, Decibels? RmsDbfs, long ClippedRuns, Frames? FullScale, Loudness Loudness)
{
    /// <summary>Those of a file that was measured.</summary>
    public static HandoffLevels Of(FileLevels levels) => new(
        Highest(levels.Channels.Select(c => c.SamplePeak)),
        Highest(levels.TruePeaks),
        Highest(levels.Channels.Select(c => c.Rms)),
        levels.Channels.Sum(c => c.ClippedRuns),
        new(levels.Channels.Sum(c => c.FullScale.Count)),
        levels.Loudness);

    private static Decibels? Highest(IEnumerable<Decibels> levels) => levels.DefaultIfEmpty(Decibels.Silence).Max() is var highest && highest > Decibels.Silence ? highest : null;
}

using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>The levels of one channel, full scale 1.0.</summary>
/// <param name="SamplePeak">20 log10 of the largest absolute sample.</param>
/// <param name="Rms">20 log10 of the root mean square; a full-scale sine reads -3.01.</param>
/// <param name="DcOffset">The mean.</param>
/// <param name="ClippedRuns">Runs of three or more samples at full scale.</param>
/// <param name="Runs">Where the first of them are.</param>
/// <param name="FullScale">Samples at full scale that are in no such run.</param>
public sealed record ChannelLevels(
    Decibels SamplePeak, Decibels Rms, double DcOffset, long ClippedRuns, ImmutableArray<ClipRun> Runs, Frames FullScale)
{
    /// <summary>Peak below which a channel counts as silent.</summary>
    public static readonly Decibels SilenceBelow = new(-80);

    /// <summary>True if nothing in it reaches -80 dBFS.</summary>
    public bool Silent => SamplePeak < SilenceBelow;
}

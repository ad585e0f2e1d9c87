using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>One file of a handoff.</summary>
/// <param name="Number">Its place, from 1.</param>
/// <param name="File">Its name in the handoff.</param>
/// <param name="Track">The track it was printed on.</param>
/// <param name="Elements">What the split says it holds.</param>
/// <param name="Source">Where it came from: unit, port and input.</param>
/// <param name="Format">The shape of its samples.</param>
/// <param name="Frames">Its length.</param>
/// <param name="SamplePeakDbfs">Highest sample peak of its channels; null for silence.</param>
/// <param name="RmsDbfs">Highest RMS of its channels; null for silence.</param>
/// <param name="ClippedRuns">Runs of clipped samples.</param>
/// <param name="FullScale">Samples at full scale beside these; null if they were never counted.</param>
/// <param name="Mended">True if it is not the printed file but what mends make of it.</param>
/// <param name="Sha256">Of the whole file, in hexadecimal; null until it is written.</param>
public sealed record HandoffTrack(
    int Number,
    string File,
    string Track,
    string Elements,
    string Source,
    AudioFormat Format,
    Frames Frames,
    Decibels? SamplePeakDbfs,
    Decibels? RmsDbfs,
    long ClippedRuns,
    Frames? FullScale,
    bool Mended,
    string? Sha256)
{
    /// <summary>The same with the levels of its channels.</summary>
    public HandoffTrack With(IReadOnlyList<ChannelLevels> levels) => this with
    {
        SamplePeakDbfs = Highest(levels.Select(l => l.SamplePeak)),
        RmsDbfs = Highest(levels.Select(l => l.Rms)),
        ClippedRuns = levels.Sum(l => l.ClippedRuns),
        FullScale = new(levels.Sum(l => l.FullScale.Count)),
    };

    private static Decibels? Highest(IEnumerable<Decibels> levels) => levels.DefaultIfEmpty(Decibels.Silence).Max() is var highest && highest > Decibels.Silence ? highest : null;
}

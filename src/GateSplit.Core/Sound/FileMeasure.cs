using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>What one file holds: shape, length, levels of every channel, and its waveform overview.</summary>
/// <param name="Format">The shape of the samples.</param>
/// <param name="Frames">Its length.</param>
/// <param name="Channels">Levels, one a channel.</param>
/// <param name="Overview">The waveform.</param>
/// <param name="Remarks">Damage that was read around.</param>
public sealed record FileMeasure(
    AudioFormat Format, Frames Frames, ImmutableArray<ChannelLevels> Channels, Overview Overview, ImmutableArray<string> Remarks)
{
    /// <summary>A remark on samples that were no numbers; none if all were.</summary>
    /// <param name="count">How many there were.</param>
    public static IEnumerable<string> NotNumbers(long count) => count == 0
        ? []
        : [$"{Words.Count(count, "sample")} {(count == 1 ? "is" : "are")} no number, infinite, or beyond what 32-bit floats hold: taken as 0 wherever it is heard, measured or converted."];

    /// <summary>Reads a WAVE file once from end to end and measures it.</summary>
    /// <param name="reader">The open file.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops the reading.</param>
    public static FileMeasure Of(WaveReader reader, IProgress<double>? progress = null, CancellationToken cancel = default)
    {
        var format = reader.Format;
        var meters = Enumerable.Range(0, format.Channels).Select(_ => new ChannelMeter()).ToArray();
        var overview = new OverviewBuilder(format.Channels);
        var none = SampleBlocks.Read(
            reader,
            (samples, frames) =>
            {
                for (var channel = 0; channel < format.Channels; channel++)
                {
                    var part = samples[channel].AsSpan(0, frames);
                    meters[channel].Add(part);
                    overview.Add(channel, part);
                }
            },
            progress,
            cancel);
        return new FileMeasure(format, reader.Frames, [.. meters.Select(m => m.Result())], overview.Build(), [.. reader.Remarks, .. NotNumbers(none)]);
    }
}
